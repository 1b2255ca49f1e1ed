import { NOT_OF_THE_VIEW } from './ui/keys.js';

/** What was copied here last, for where the browser does not let a page read the clipboard. */
let last = '';

/** Puts a text into the clipboard; over plain HTTP the browser has no other way than its own command. */
export async function copyText(text: string): Promise<void> {
  last = text;
  try {
    await navigator.clipboard.writeText(text);
  } catch {
    copyByCommand(text);
  }
}
function copyByCommand(text: string): void {
  const put = (e: ClipboardEvent): void => {
    e.preventDefault();
    e.stopImmediatePropagation();
    e.clipboardData?.setData('text/plain', text);
  };
  document.addEventListener('copy', put, { capture: true, once: true });
  document.execCommand('copy');
  document.removeEventListener('copy', put, { capture: true });
}

/** The text of the clipboard, or what was copied in this window where that may not be read. */
export async function pastedText(): Promise<string> {
  try {
    return await navigator.clipboard.readText();
  } catch {
    return last;
  }
}

/** Whether a copy, cut or paste is meant for the view, and not for a field, a dialog or a text that is selected. */
export function isForView(e: ClipboardEvent): boolean {
  const target = e.target instanceof Element ? e.target : document.body;
  if (target.closest(NOT_OF_THE_VIEW)) return false;
  return e.type === 'paste' || document.getSelection()?.isCollapsed !== false;
}
