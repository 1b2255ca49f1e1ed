import type { Step } from '../project/types.js';
import { baseOf, nameLive, type Named } from './addresses.js';
import { NONE } from './args.js';
import { judge } from './expectations.js';
import type { RehearsalModel } from './rehearsal-model.js';
import type { Publication, Raise, SpecialRaise } from './items.js';
import type { InstanceState } from './instance-state.js';
import type { Population } from './population.js';
import type { RecordBody, Values } from './records.js';

/** The run that steps are taken in. */
export interface StepHost {
  write(body: RecordBody, cause: number, step: number): number;
  newRaise(live: InstanceState, event: number, payload: Values, cause: number, special: SpecialRaise): Raise;
  takeRaise(raise: Raise): void;
  takePublication(publication: Publication): void;
  nextSeq(): number;
  setPaused(paused: boolean): void;
}

/** Takes the steps of a script: raises, publications, pauses, expectations. */
export class Steps {
  constructor(
    private readonly model: RehearsalModel,
    private readonly population: Population,
    private readonly takesPart: (instance: number) => boolean,
    private readonly host: StepHost,
  ) {}

  /** Takes a step that is no expectation. Returns whether all that it names is there and loaded. */
  take(step: Step, i: number): boolean {
    if ('raise' in step) return this.takeRaise(step.raise, i);
    if ('publish' in step) return this.takePublication(step.publish, i);
    if ('pause' in step) {
      this.host.setPaused(step.pause);
      this.host.write({ kind: 'pause', is: step.pause }, 0, i);
    }
    return true;
  }
  /** Judges an expectation; `broken` if it names something that is not there or not loaded. */
  expect({ expect }: Extract<Step, { expect: object }>, i: number): { ok: boolean; broken: boolean } {
    const { broken, ...body } = judge(this.model.x, this.population, expect, this.name(expect.at));
    this.host.write({ kind: 'expect', ...body }, 0, i);
    return { ok: body.ok, broken };
  }

  private name(address: string): Named {
    return nameLive(this.model, this.population, this.takesPart, address);
  }
  private takePublication(
    { channel, key, payload = NONE }: Extract<Step, { publish: object }>['publish'],
    step: number,
  ): boolean {
    const { model, host } = this;
    const known = model.x.index.channelAt.has(channel);
    const audience = model.peers > 0 ? [...Array(model.peers).keys()] : null;
    const head = { kind: 'publication', seq: host.nextSeq(), cause: 0, step } as const;
    host.takePublication({ ...head, channel, known, key, payload, state: null, audience });
    return known;
  }
  private takeRaise(
    { at, event, payload = NONE, activator, by }: Extract<Step, { raise: object }>['raise'],
    step: number,
  ): boolean {
    const { model, host } = this;
    const { index } = model.x;
    const named = this.name(at);
    const base = baseOf(named);
    const number = base < 0 ? undefined : model.x.assetOf(base).eventAt.get(event);
    const peer = by === undefined || model.peers === 0 ? null : this.peerNumber(by);
    const missing =
      number === undefined || peer === -1 || (activator !== undefined && !index.assetAt.has(activator));
    const fault = missing ? 'dangling' : named.fault;
    if (fault !== null || !named.live) {
      const reason = fault === 'unborn' || fault === null ? 'gone' : fault;
      const where = named.live ? this.population.address(named.live) : at;
      host.write({ kind: 'refused', at: where, event, reason }, 0, step);
      return fault === 'unborn';
    }
    const special = { step, by: peer, activator: activator ?? null };
    host.takeRaise(host.newRaise(named.live, number!, payload, 0, special));
    return true;
  }
  private peerNumber(name: string): number {
    return (this.model.x.index.project.peers ?? []).findIndex((p) => p.name === name);
  }
}
