import { expand, indexProject, type Project, type Rehearsal, type Step } from '../../src/index.js';
import type { Random } from '../random.js';

/** A script over whatever a random project has, sound and unsound, at times that meet. */
export function randomScript(r: Random, project: Project): Rehearsal {
  const x = expand(indexProject(project));
  const addresses = Array.from({ length: Math.min(x.count, 60) }, (_, i) => x.address(i));
  const at = (): string => {
    const address = r.chance(0.95) ? r.pick(addresses) : r.pick(['S0:nowhere', 'S9:.', 'p0', 'S0:p0/p1']);
    return r.chance(0.3) ? address.replace(/~P\d/g, (s) => `${s}#${1 + r.int(2)}`) : address;
  };
  const watched = addresses.filter((a) => /^S0:(hub|w\d)$/.test(a));
  const event = (): string => r.pick(['onA', 'onB', 'onC']);
  const steps = Array.from({ length: 3 + r.int(7) }, (): Step => {
    const time = r.int(5) / 2;
    const pulled = watched.length > 0 && r.chance(0.4);
    const raise = (): Step => ({
      at: time,
      raise: {
        at: pulled ? r.pick(watched) : at(),
        event: pulled ? 'onA' : event(),
        ...(r.chance(0.3) ? { payload: { n: r.pick([1, 'x', true]) } } : {}),
        ...(r.chance(0.4) ? { activator: r.pick(['P0', 'P1', 'S0', 'Nobody']) } : {}),
        ...(r.chance(0.3) ? { by: r.pick(['host', 'guest', 'gest']) } : {}),
      },
    });
    return r.pick<() => Step>([
      raise,
      raise,
      raise,
      raise,
      () => ({
        at: time,
        publish: {
          channel: r.pick(['tension', 'weather', 'lost']),
          ...(r.chance(0.6) ? { key: r.pick([1, 'east', true]) } : {}),
        },
      }),
      () => ({ at: time, pause: r.chance(0.3) }),
      () => ({
        at: time,
        expect: { at: at(), property: r.pick(['line', 'open']), is: r.pick([1, 'east', true]) },
      }),
      () => ({ at: time, expect: { at: at(), asleep: r.chance(0.5) } }),
      () => ({ at: time, expect: { at: at(), gone: r.chance(0.5) } }),
      () => ({ at: time, expect: { at: at(), action: r.pick(['doA', 'doB']), times: r.int(3) } }),
    ])();
  });
  const sets = project.loadSets ?? [];
  return { name: 'r', steps, ...(sets.length > 0 && r.chance(0.5) ? { loadSet: r.pick(sets).name } : {}) };
}
