import { useEffect, type RefObject } from 'react';
import { isForView } from '../../parts/clipboard.js';

/** Copy, cut and paste on the stage, through the clipboard as lines of text. */
export function useClipboard(
  region: RefObject<HTMLElement | null>,
  stage: {
    /** The lines of what is chosen; empty for nothing. */
    copied: () => string;
    cut: () => void;
    paste: (text: string) => void;
  },
): void {
  useEffect(() => {
    const isHere = (e: ClipboardEvent): boolean => {
      const target = e.target instanceof Element ? e.target : document.body;
      if (!isForView(e)) return false;
      return (
        target === document.body ||
        region.current?.contains(target) === true ||
        target.closest('.stagebody') !== null
      );
    };
    const onCopy = (e: ClipboardEvent): void => {
      const lines = isHere(e) ? stage.copied() : '';
      if (lines === '') return;
      e.preventDefault();
      e.clipboardData?.setData('text/plain', lines);
      if (e.type === 'cut') stage.cut();
    };
    const onPaste = (e: ClipboardEvent): void => {
      if (!isHere(e)) return;
      e.preventDefault();
      stage.paste(e.clipboardData?.getData('text') ?? '');
    };
    document.addEventListener('copy', onCopy);
    document.addEventListener('cut', onCopy);
    document.addEventListener('paste', onPaste);
    return () => {
      document.removeEventListener('copy', onCopy);
      document.removeEventListener('cut', onCopy);
      document.removeEventListener('paste', onPaste);
    };
  });
}
