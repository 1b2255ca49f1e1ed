import type { WiringProject, WiringScene } from './format.js';
import type { WorldRecord } from './records.js';
import { Script, type Rehearsal, type Step, type TraceLine } from './script.js';
import { createWorld, type World } from './world.js';

/** What is due later than this after the last step is cut off, in microseconds. */
const AFTER_LAST_STEP = 60_000_000;
const LIMITS = {
  atOnce: 1000,
  deliveries: 1_000_000,
  ticks: 2_000_000,
  copies: 1_000_000,
  records: 10_000_000,
};

/**
 * A rehearsal whose steps are given one by one while its time goes on, as when somebody plays. Its lines are those of the
 * trace of the rehearsal that has these steps at these times.
 */
export class LiveRehearsal {
  /** Null if the load set is not there: then it is over before it has begun. */
  readonly world: World | null;
  /** Steps so far. */
  steps = 0;
  /** Expectations judged so far, and those that held. */
  private judged = 0;
  private held = 0;
  private broken = 0;
  private troubles = 0;
  private readonly script!: Script;

  constructor(
    wiring: WiringProject,
    files: readonly WiringScene[],
    private readonly rehearsal: Pick<Rehearsal, 'name' | 'loadSet' | 'strict'>,
    private readonly take: (line: TraceLine) => void,
  ) {
    const { name, loadSet } = rehearsal;
    const set = loadSet === undefined ? null : wiring.loadSets.find((s) => s.name === loadSet);
    if (set === undefined) {
      this.world = null;
      take({ kind: 'verdict', name, error: 'load-set', pass: false });
      return;
    }
    const record = (r: WorldRecord): void => {
      if (r.kind === 'lost' || r.kind === 'refused') this.troubles++;
      take(r as unknown as TraceLine);
    };
    const world = (this.world = createWorld(wiring, { record, limits: LIMITS }));
    const scenes = files.map((file) => world.prepare(file)).sort((a, b) => a.order - b.order);
    const part = scenes.filter(
      ({ file }) =>
        !set || set.scenes.includes(file.scene) || wiring.assets[file.asset[0]].persistent === true,
    );
    take({ kind: 'rehearsal', name, scenes: part.map((s) => s.file.scene) });
    world.load(...part);
    this.script = new Script(world, scenes);
  }

  /** Whether nothing can be done any more. */
  get over(): boolean {
    return this.world?.runaway !== false;
  }
  /** Goes on to a time in microseconds; what is due before it is done. */
  goTo(time: number): void {
    if (this.world && time > this.world.now) this.world.advanceTo(time);
  }
  /** Takes a step now, whatever time it says. `number`: its place in the script, if that is another one. */
  do(step: Step, number = this.steps): void {
    this.steps++;
    if (this.over) return;
    if (!('expect' in step)) {
      if (!this.script.take(step, number)) this.broken++;
      return;
    }
    const { ok, broken } = this.script.judge(step.expect, number);
    this.judged++;
    if (ok) this.held++;
    if (broken) this.broken++;
  }
  /** Does what is due now: before an expectation is judged, and after the last step of a moment. */
  settle(): void {
    if (!this.over) this.world!.settle();
  }
  /** Lets what is under way run out, and gives the verdict. `expected`: expectations of the script in all. */
  end(expected = this.judged): void {
    const { world } = this;
    if (!world) return;
    const last = world.now;
    world.endTimers();
    while (!world.runaway && world.next <= last + AFTER_LAST_STEP) {
      world.open(world.next);
      world.settle();
    }
    const cut = world.runaway ? 0 : this.script.cut();
    const { records, deliveries, now: end, runaway } = world;
    const { held, judged, broken } = this;
    const failed = judged - held;
    const { name, strict } = this.rehearsal;
    const pass = failed === 0 && broken === 0 && !runaway && !(strict === true && this.troubles > 0);
    this.take({
      kind: 'verdict',
      name,
      pass,
      records,
      deliveries,
      end,
      held,
      failed,
      unjudged: expected - judged,
      steps: broken,
      cut,
      runaway,
    });
  }
}

/** Runs a rehearsal over compiled wiring, and gives the lines of its trace: its head, its records, its verdict. */
export function rehearse(
  wiring: WiringProject,
  files: readonly WiringScene[],
  rehearsal: Rehearsal,
  take: (line: TraceLine) => void,
): void {
  const run = new LiveRehearsal(wiring, files, rehearsal, take);
  const timed = rehearsal.steps
    .map((step, i) => ({ step, i, t: Math.round(step.at * 1e6), last: 'expect' in step }))
    .sort((a, b) => a.t - b.t || Number(a.last) - Number(b.last));
  timed.forEach(({ step, i, t, last }, k) => {
    if (run.over) return;
    run.goTo(t);
    // Expectations come after all that is due then.
    if (last && !(k > 0 && timed[k - 1].last && timed[k - 1].t === t)) run.settle();
    if (!run.over) run.do(step, i);
  });
  run.settle();
  run.end(timed.filter((s) => s.last).length);
}
