import {
  ALL_RULES,
  DEFAULT_POLICY,
  patternFault,
  thresholds,
  type Change,
  type Finding,
  type Policy,
  type Severity,
} from '@oquel/core';
import { useMemo, useState, type ReactNode } from 'react';
import { usePreview } from '../../session/use-preview.js';
import { useSession, useSessionState } from '../../session/session-context.js';
import { countText } from '../../format.js';

const LIMITS = {
  maxChain: ['hops in a chain', 20],
  maxFanOut: ['actions that one event reaches directly', 40],
  maxReach: ['actions that it reaches in all', 500],
  maxTangle: ['actions and events that make a tangle', 40],
} as const;
const NAMES = ['event', 'action', 'channel', 'placement', 'asset'] as const;
const SEVERITIES: readonly Severity[] = ['error', 'warning', 'info', 'off'];

/** Thresholds, severities, names and the gate; what a change would do to the findings is seen before it is saved. */
export function PolicyPanel(): ReactNode {
  const session = useSession();
  const { project } = useSessionState();
  const saved = useMemo(() => project.policy ?? {}, [project.policy]);
  const [draft, setDraft] = useState<Policy>(saved);
  const [from, setFrom] = useState(saved);
  if (from !== saved) {
    // Somebody else has changed it, or it was undone.
    setFrom(saved);
    setDraft(saved);
  }
  const changed = JSON.stringify(draft) !== JSON.stringify(saved);
  const bad = useMemo(() => badPatterns(draft), [draft]);
  const changes = useMemo<Change[]>(
    () => (changed && bad.size === 0 ? [{ op: 'set', part: 'policy', value: draft }] : []),
    [changed, bad, draft],
  );
  const found = usePreview(changes, 200);
  const now = thresholds(draft);
  const put = (part: Partial<Policy>): void => setDraft(cleaned({ ...draft, ...part }));
  return (
    <section className="policy" aria-label="Policy">
      <div className="policyfields">
        <h1 className="unseen">Policy</h1>
        <h2>Limits</h2>
        {(Object.keys(LIMITS) as (keyof typeof LIMITS)[]).map((key) => (
          <label key={key} className="limit">
            <span>{LIMITS[key][0]}</span>
            <input
              type="range"
              min={1}
              max={Math.max(LIMITS[key][1], now[key])}
              value={now[key]}
              aria-label={`At most, ${LIMITS[key][0]}`}
              onChange={(e) => put({ [key]: limitValue(key, Number(e.target.value), saved) })}
            />
            <b>{now[key]}</b>
          </label>
        ))}
        <h2>The gate stops at</h2>
        <div className="row" role="group" aria-label="The gate stops at">
          {(['error', 'warning'] as const).map((g) => (
            <button
              key={g}
              type="button"
              className="tick"
              aria-pressed={(draft.gate ?? 'error') === g}
              onClick={() => put({ gate: g === 'error' && saved.gate === undefined ? undefined : g })}
            >
              {g === 'error' ? 'errors' : 'errors and warnings'}
            </button>
          ))}
        </div>
        <h2>Naming patterns</h2>
        {NAMES.map((n) => (
          <label key={n} className="pattern">
            <span>{n}s</span>
            <input
              className="line code"
              aria-label={`Pattern for ${n}s`}
              aria-invalid={bad.has(n)}
              placeholder={n === 'event' ? '^on[A-Z]' : 'any'}
              value={draft.names?.[n] ?? ''}
              onChange={(e) =>
                put({
                  names: withoutEmpty({
                    ...draft.names,
                    [n]: e.target.value === '' ? undefined : e.target.value,
                  }),
                })
              }
            />
            {bad.has(n) && (
              <span className="fault error" role="alert">
                {bad.get(n)}
              </span>
            )}
          </label>
        ))}
      </div>
      <div className="severities">
        <h2>Severities</h2>
        <ul>
          {ALL_RULES.flatMap(({ meta }) =>
            [meta.name, ...Object.keys(meta.classes ?? {}).map((c) => `${meta.name}/${c}`)].map((key) => (
              <li key={key}>
                <label>
                  <span className={key.includes('/') ? 'class' : ''}>
                    {key.includes('/') ? key.split('/')[1] : key}
                  </span>
                  <select
                    className="line"
                    aria-label={`Severity of ${key}`}
                    value={draft.severity?.[key] ?? ''}
                    onChange={(e) =>
                      put({
                        severity: withoutEmpty({
                          ...draft.severity,
                          [key]: e.target.value === '' ? undefined : (e.target.value as Severity),
                        }),
                      })
                    }
                  >
                    <option value="">default</option>
                    {SEVERITIES.map((s) => (
                      <option key={s} value={s}>
                        {s === 'info' ? 'note' : s}
                      </option>
                    ))}
                  </select>
                </label>
              </li>
            )),
          )}
        </ul>
      </div>
      <div className="policyeffect" role="status" aria-label="What the policy would do">
        {!changed && (
          <span className="soft">
            Change a limit to see here which findings would be new or gone before you save it.
          </span>
        )}
        {changed && bad.size === 0 && !found && <span className="soft">Checking findings ...</span>}
        {found && <Effect title="come" findings={found.added} />}
        {found && <Effect title="go" findings={found.gone} />}
        {changed && (
          <div className="row">
            <button
              type="button"
              className="tick"
              aria-pressed="true"
              disabled={bad.size > 0}
              onClick={() =>
                session.edit({
                  label: policyLabel(saved, draft),
                  changes: [{ op: 'set', part: 'policy', value: draft }],
                })
              }
            >
              Save the policy
            </button>
            <button type="button" className="tick" onClick={() => setDraft(saved)}>
              Reset
            </button>
          </div>
        )}
      </div>
    </section>
  );
}

function Effect({ title, findings }: { title: string; findings: readonly Finding[] }): ReactNode {
  return (
    <div>
      <b>
        {countText(findings.length, 'finding')}{' '}
        {findings.length === 1 ? `${title}${title === 'go' ? 'es' : 's'}` : title}
      </b>
      {findings.slice(0, 6).map((f) => (
        <div key={f.fingerprint} className={`fault ${f.severity}`}>
          {f.message}
        </div>
      ))}
      {findings.length > 6 && <div className="soft">and {findings.length - 6} more</div>}
    </div>
  );
}

/** A limit that is the usual one is left out, unless it was written out before. */
function limitValue(key: keyof typeof LIMITS, value: number, saved: Policy): number | undefined {
  return value === DEFAULT_POLICY[key] && saved[key] === undefined ? undefined : value;
}
function withoutEmpty<T extends object>(record: T): { [K in keyof T]: Exclude<T[K], undefined> } | undefined {
  const entries = Object.entries(record).filter(([, v]) => v !== undefined);
  return entries.length > 0 ? (Object.fromEntries(entries) as never) : undefined;
}
function cleaned(policy: Policy): Policy {
  return withoutEmpty(policy) ?? {};
}
function badPatterns({ names }: Policy): Map<string, string> {
  const bad = new Map<string, string>();
  for (const [kind, pattern] of Object.entries(names ?? {})) {
    const fault = patternFault(pattern);
    if (fault) bad.set(kind, fault);
  }
  return bad;
}
function policyLabel(before: Policy, after: Policy): string {
  const keys = (Object.keys({ ...before, ...after }) as (keyof Policy)[]).filter(
    (k) => JSON.stringify(before[k]) !== JSON.stringify(after[k]),
  );
  const says = keys.map((k) =>
    typeof after[k] === 'object' ? k : `${k} ${String(after[k] ?? 'the default')}`,
  );
  return `policy: ${says.join(', ')}`;
}
