import { canonicalJson, type WorldRecord } from '@oquel/runtime';

/** Lines that the list on the page keeps. */
const SHOWN = 200;

/** What has happened, as a list on the page and as JSON Lines. */
export class Trace {
  private readonly records: string[] = [];

  constructor(private readonly list: HTMLElement) {}

  readonly take = (record: WorldRecord): void => {
    this.records.push(canonicalJson(record));
    const line = document.createElement('li');
    line.textContent = textOf(record);
    this.list.append(line);
    if (this.list.childElementCount > SHOWN) this.list.firstElementChild!.remove();
    this.list.scrollTop = this.list.scrollHeight;
  };
  /** One record a line. */
  get text(): string {
    return this.records.map((line) => `${line}\n`).join('');
  }
  get length(): number {
    return this.records.length;
  }
}

function textOf(r: WorldRecord): string {
  const at = 'at' in r ? r.at.slice(r.at.indexOf(':') + 1) : '';
  if (r.kind === 'raise') return `${at} ${r.event}`;
  if (r.kind === 'performed') return `${at}: ${r.action}`;
  if (r.kind === 'change') return `${at}: ${r.property} is ${JSON.stringify(r.to)}`;
  if (r.kind === 'publication') return `${r.channel} is told`;
  if (r.kind === 'lost') return `lost: ${'action' in r ? `${at} ${r.action}` : at} (${r.reason})`;
  if (r.kind === 'refused') return `refused: ${at} ${r.event} (${r.reason})`;
  if (r.kind === 'stopped') return `${r.binding} does not trigger (${r.reason})`;
  if (r.kind === 'pause') return r.is ? 'paused' : 'goes on';
  return at === '' ? r.kind : `${at}: ${r.kind}`;
}
