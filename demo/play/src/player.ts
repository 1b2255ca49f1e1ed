import type { World } from '@oquel/runtime';
import { isIn, type Level, type Thing } from './level.js';

/** Metres a second; metres within which something can be used. */
const SPEED = 5;
const REACH = 3;

/** The one who is played: walks, and tells the wiring what it steps into and uses. */
export class Player {
  at: [number, number];
  private inside = new Set<Thing>();

  constructor(
    private readonly level: Level,
    private readonly world: World,
    /** Names of the events of an asset that a cause of the game's own brings about. */
    private readonly eventsOf: (asset: string, cause: string) => readonly string[],
  ) {
    this.at = [...level.start];
  }

  /** One frame: walks in a direction, which need not be of unit length. */
  walk([dx, dy]: readonly [number, number], seconds: number): void {
    const length = Math.hypot(dx, dy);
    if (length > 0) {
      const far = (SPEED * seconds) / length;
      const [width, height] = this.level.size;
      this.at = [
        Math.min(width, Math.max(0, this.at[0] + dx * far)),
        Math.min(height, Math.max(0, this.at[1] + dy * far)),
      ];
    }
    for (const thing of this.level.things) {
      const is = isIn(thing, this.at);
      if (is === this.inside.has(thing)) continue;
      if (is) this.inside.add(thing);
      else this.inside.delete(thing);
      this.raise(thing, is ? 'area-enter' : 'area-leave');
    }
  }
  /** The nearest thing that can be used from here. */
  get near(): Thing | null {
    let found: Thing | null = null;
    let least = REACH;
    for (const thing of this.level.things) {
      const far = Math.hypot(thing.at[0] - this.at[0], thing.at[1] - this.at[1]);
      if (far <= least && this.eventsOf(thing.asset, 'use').length > 0) [found, least] = [thing, far];
    }
    return found;
  }
  use(): void {
    if (this.near) this.raise(this.near, 'use');
  }
  press(widget: Thing): void {
    this.raise(widget, 'press');
  }
  private raise(thing: Thing, cause: string): void {
    for (const event of this.eventsOf(thing.asset, cause)) {
      this.world.raise(thing.address, event, {}, { activator: this.level.player.asset });
    }
  }
}
