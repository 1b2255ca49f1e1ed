import type { Instance } from './instance.js';
import type { Tally } from './tally.js';

/** Notices actions that are performed without end, and reads the cycle off the causes of what was too many. */
export class RunawayWatch {
  /** For each record since `base` its cause, and what was performed: all three lists go together. */
  private causes: number[] = [0];
  private who: (Instance | null)[] = [null];
  private what: number[] = [-1];
  private instant = 1;
  /** Records up to this one are forgotten. */
  private base = 0;
  /** Whether causes are kept: for the whole run, or from when an action comes half way to being too many. */
  keeps: boolean;

  /** `whole`: causes are kept for the whole run, not only where a loop is near. */
  constructor(
    private readonly most: number,
    private readonly whole: boolean,
  ) {
    this.keeps = whole;
  }
  newInstant(records: number): void {
    this.instant++;
    if (this.whole) return;
    if (this.keeps) this.causes.length = this.who.length = this.what.length = 1;
    this.keeps = false;
    this.base = records;
  }
  /** Each record, in order; with what was performed if it says so. */
  record(cause: number, instance: Instance | null, action: number): void {
    if (this.keeps) {
      this.causes.push(cause);
      this.who.push(instance);
      this.what.push(action);
    } else this.base++;
    if (instance) this.counted(instance.scene.tallyOf(instance.at, action));
  }
  private counted(tally: Tally): void {
    if (tally.instant === this.instant) {
      if (++tally.times * 2 >= this.most) this.keeps = true;
    } else {
      tally.instant = this.instant;
      tally.times = 1;
    }
  }
  /**
   * Counts a performance of which no record is kept. False, and nothing is counted, where causes are kept: a loop is near
   * then, and each performance must be recorded with its own.
   */
  passes(tally: Tally): boolean {
    if (this.keeps) return false;
    this.counted(tally);
    return true;
  }
  /** Whether one performance more at this instant would be too many. */
  isTooMany({ scene, at }: Instance, action: number): boolean {
    const { instant, times } = scene.tallyOf(at, action);
    return instant === this.instant && times >= this.most;
  }
  /** The performances from the nearest one of the same action among the causes up to the last cause, in order of time. */
  cycle(instance: Instance | null, action: number, cause: number): { instance: Instance; action: number }[] {
    const back: { instance: Instance; action: number }[] = [];
    for (let n = cause; n > this.base; n = this.causes[n - this.base]) {
      const performer = this.who[n - this.base];
      if (!performer) continue;
      const performed = this.what[n - this.base];
      back.push({ instance: performer, action: performed });
      const isSame = instance?.at === performer.at && instance.scene === performer.scene;
      if (isSame && performed === action) return back.reverse();
    }
    return [];
  }
}
