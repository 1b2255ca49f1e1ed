import { audit, readProjectText } from '@oquel/core';

/** Runs in a worker thread: the document's text in, the audit's text out. */
export default function run({ text, today }: { text: string; today: string }): string {
  return JSON.stringify(audit(readProjectText(text).project, { today }));
}
