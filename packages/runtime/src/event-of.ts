import type { Values } from './format.js';
import type { Burst, Instance } from './instance.js';

/** Who raises something. */
export interface RaiseOptions {
  /** The id of the asset that enters, leaves or uses it. */
  activator?: string;
  /** The peer that raises it; its authority without it. */
  by?: string;
}
/** The world that it is raised in. */
interface Raising {
  queues(burst: Burst): boolean;
  burstOf(instance: Instance, event: number): Burst;
  raise(of: Instance, event: string, payload?: Values, options?: RaiseOptions): boolean;
}

/** One event of one instance, looked up once: for what a game raises again and again. */
export class EventOf {
  private burst: Burst | null = null;

  constructor(
    private readonly world: Raising,
    readonly instance: Instance,
    readonly name: string,
    private readonly number: number,
  ) {}

  /** As the world's own `raise`. */
  raise(payload?: Values, options?: RaiseOptions): boolean {
    const { world } = this;
    if (options === undefined && this.burst !== null && world.queues(this.burst)) return true;
    this.burst = world.burstOf(this.instance, this.number);
    return world.raise(this.instance, this.name, payload, options);
  }
}
