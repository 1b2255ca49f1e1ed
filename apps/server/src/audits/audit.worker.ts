import { audit, ProjectTooLarge, readProjectText } from '@oquel/core';

/** An error would lose its class on the way between threads, so the refusal travels as data. */
export type AuditAnswer = { text: string } | { tooLarge: string };

/** Runs in a worker thread: the document's text in, the audit's text out. */
export default function run({ text, today }: { text: string; today: string }): AuditAnswer {
  try {
    return { text: JSON.stringify(audit(readProjectText(text).project, { today })) };
  } catch (error) {
    if (error instanceof ProjectTooLarge) return { tooLarge: error.message };
    throw error;
  }
}
