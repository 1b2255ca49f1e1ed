import { meetingOn, printFrom, printKey, printTo, type ChannelUse, type ProjectIndex } from '@oquel/core';
import { useMemo, type ReactNode } from 'react';
import { Link } from 'react-router';

/** Most that are listed on each side; the rest is counted. */
const MOST = 12;

/** All that meet on a channel, in the whole project: who publishes to it and who hears it. */
export function ChannelUsers({
  index,
  channel,
  base,
}: {
  index: ProjectIndex;
  channel: string;
  /** Address of the project's views. */
  base: string;
}): ReactNode {
  const { publish, hear } = useMemo(() => meetingOn(index, channel), [index, channel]);
  return (
    <section className="channelusers" aria-label={`All on #${channel}`}>
      <Side title="Published by" uses={publish} text={(b) => printFrom(b)} keyOf={keyPublished} base={base} />
      <Side title="Listeners" uses={hear} text={(b) => printTo(b)} keyOf={keyHeard} base={base} />
    </section>
  );
}

function Side({
  title,
  uses,
  text,
  keyOf,
  base,
}: {
  title: string;
  uses: readonly ChannelUse[];
  text: (binding: ChannelUse['binding']) => string;
  keyOf: (binding: ChannelUse['binding']) => string;
  base: string;
}): ReactNode {
  return (
    <div>
      <h2>
        {title} <b className={uses.length === 0 ? 'none' : ''}>{uses.length}</b>
      </h2>
      <ul>
        {uses.slice(0, MOST).map(({ owner, binding }) => {
          const at = 'at' in binding.from ? binding.from.at : `#${binding.from.channel}`;
          const scope = owner.decl.id;
          const to = `${base}/wire?scope=${encodeURIComponent(scope)}&at=${encodeURIComponent(at)}&binding=${binding.id}`;
          return (
            <li key={`${scope}/${binding.id}`} className={binding.enabled === false ? 'off' : ''}>
              <Link to={to}>
                <span className="soft">{scope}</span> <span className="mono">{text(binding)}</span>
              </Link>
              {keyOf(binding) !== '' && <span className="option">{keyOf(binding)}</span>}
            </li>
          );
        })}
        {uses.length > MOST && <li className="soft">and {uses.length - MOST} more</li>}
        {uses.length === 0 && <li className="soft">none</li>}
      </ul>
    </div>
  );
}

function keyPublished({ to }: ChannelUse['binding']): string {
  return 'channel' in to && to.key !== undefined ? `key ${printKey(to.key)}` : '';
}
function keyHeard({ from }: ChannelUse['binding']): string {
  return 'channel' in from && from.key !== undefined ? `key ${printKey(from.key)}` : '';
}
