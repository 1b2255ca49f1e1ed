import {
  printFrom,
  ALL_RULES,
  sourceOf,
  sourceText,
  thresholds,
  type Binding,
  type Finding,
} from '@oquel/core';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { useSessionState } from '../../session/session-context.js';
import { SaidSentence } from '../../parts/ui/sentence.js';
import { guideOnRule } from '../../parts/guide-link.js';
import { SeverityMark, SEVERITY_WORD } from '../../parts/ui/severity-mark.js';
import { Fixes } from '../../parts/fixes.js';
import { rippleHref } from '../../parts/ripple-href.js';
import { FixAlike } from './fix-alike.js';
import { EvidenceView } from './evidence-view.js';
import { placesOf } from '../../parts/places.js';
import { Waive } from './waive.js';

/** One finding: what it says, its sentence, its proof drawn, why it matters, how to fix it, and where it is. */
export function FindingView({ finding }: { finding: Finding }): ReactNode {
  const { id, index, project, audit } = useSessionState();
  const base = `/p/${id}`;
  const meta = ALL_RULES.find((r) => r.meta.name === finding.rule)?.meta;
  const places = placesOf(index, base, finding);
  const bindings = bindingsOfSubject(index, finding);
  const alike =
    audit?.findings.filter((f) => f.rule === finding.rule && f.class === finding.class && !f.waived).length ??
    0;
  const ripple = rippleOfEvidence(base, finding);
  const source = sourceOf(index, finding.subject);
  return (
    <article className="finding" aria-label="Finding" tabIndex={0}>
      <h2>{finding.message}</h2>
      <div className="row soft" style={{ marginTop: 5 }}>
        <span className={`fault ${finding.severity}`}>
          <SeverityMark severity={finding.severity} /> <b>{SEVERITY_WORD[finding.severity]}</b>
        </span>
        <span>
          <a
            href={guideOnRule(finding.rule)}
            target="_blank"
            rel="noreferrer"
            title="What the guide says of this rule"
          >
            {finding.rule}
          </a>
          {finding.class !== undefined && `, ${finding.class}`}
        </span>
        {source && <span className="mono">declared in {sourceText(source)}</span>}
        {finding.waived && <b>waived</b>}
        <span className="mono" title="Fingerprint: names this finding in waivers and baselines">
          {finding.fingerprint}
        </span>
      </div>
      {bindings.length > 0 && (
        <section>
          <h3>{bindings.length === 1 ? 'The binding' : 'The bindings'}</h3>
          {bindings.map(({ asset, binding }) => (
            <div
              key={`${asset}/${binding.id}`}
              className="sentence"
              style={{ gridTemplateColumns: 'minmax(0, 1fr)' }}
            >
              <span>
                when <span className="who">{printFrom(binding)}</span> do <SaidSentence binding={binding} />{' '}
                <span className="soft">in {asset}</span>
              </span>
            </div>
          ))}
        </section>
      )}
      <section>
        <h3>The proof</h3>
        <EvidenceView
          index={index}
          base={base}
          finding={finding}
          maxChain={thresholds(project.policy).maxChain}
        />
        {ripple !== null && <Link to={ripple}>See it as a ripple</Link>}
      </section>
      {meta && (
        <section>
          <h3>Why it matters</h3>
          <p style={{ margin: 0, maxWidth: '70ch' }}>
            {meta.what} {meta.why}
          </p>
        </section>
      )}
      <section>
        <h3>Fix</h3>
        {meta && <p style={{ margin: '0 0 6px' }}>{meta.fix}</p>}
        <Fixes key={finding.fingerprint} fingerprint={finding.fingerprint} />
        {alike > 1 && <FixAlike key={`alike ${finding.fingerprint}`} finding={finding} alike={alike} />}
      </section>
      <section>
        <h3>Or waive it</h3>
        <Waive key={finding.fingerprint} finding={finding} />
      </section>
      <section>
        <h3>Open in Wire</h3>
        {places.length === 0 ? (
          <p className="soft">It is not placed in any scene.</p>
        ) : (
          <ul className="problemlist">
            {places.map((p) => (
              <li key={p.href}>
                <Link to={p.href}>{p.text}</Link>
              </li>
            ))}
            {finding.occurrences.length > places.length && (
              <li className="soft">{finding.occurrences.length} places in all</li>
            )}
          </ul>
        )}
      </section>
    </article>
  );
}

function bindingsOfSubject(
  index: ReturnType<typeof useSessionState>['index'],
  { subject: s }: Finding,
): { asset: string; binding: Binding }[] {
  const refs = 'bindings' in s ? s.bindings : 'binding' in s ? [s] : [];
  return refs.slice(0, 12).flatMap(({ asset, binding: id }) => {
    const at = index.assetAt.get(asset);
    const owner = at === undefined ? undefined : index.assets[at];
    const binding = owner?.bindings[owner.bindingAt.get(id) ?? -1];
    return binding ? [{ asset, binding }] : [];
  });
}

/** A chain, a fan-out or a cycle goes on from its first node. */
function rippleOfEvidence(base: string, { evidence }: Finding): string | null {
  if (evidence.kind !== 'path') return null;
  const { at, name, type, key } = evidence.steps[0].node;
  if (type === 'channel') return rippleHref(base, { channel: name, ...(key === undefined ? {} : { key }) });
  return at === undefined ? null : rippleHref(base, { at, name });
}
