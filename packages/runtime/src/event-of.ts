import type { Burst } from './burst.js';
import type { Values } from './format.js';
import type { Instance } from './instance.js';
import type { RaiseOptions, World } from './world.js';

/** One event of one instance, looked up once: for what a game raises again and again. */
export class EventOf {
  private burst: Burst | null = null;

  constructor(
    private readonly world: World,
    readonly instance: Instance,
    readonly name: string,
    private readonly number: number,
  ) {}

  /** As {@link World.raise}. */
  raise(payload?: Values, options?: RaiseOptions): boolean {
    const { world } = this;
    if (options === undefined && this.burst !== null && world.queues(this.burst)) return true;
    this.burst = world.burstOf(this.instance, this.number);
    return world.raise(this.instance, this.name, payload, options);
  }
}
