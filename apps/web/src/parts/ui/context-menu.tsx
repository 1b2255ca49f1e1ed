import type { Choice, Choices } from './choices.js';
import { useState, type MouseEvent, type ReactNode } from 'react';
import { later } from '../later.js';

const MenuList = later(async () => (await import('./menu-list.js')).MenuList);

interface Opened<T> {
  /** What was clicked. */
  what: T;
  left: number;
  top: number;
}

/**
 * A menu of what can be done, opened by a right click or by the context-menu key (Shift+F10) within an element that has
 * the handler. `find` says what was clicked; with null the browser's own menu comes, as it does in fields. `choicesFor` says
 * what can be done with it, as things are while the menu is open.
 */
export function useContextMenu<T>(
  find: (target: Element) => T | null,
  choicesFor: (what: T) => Choices,
): { onContextMenu: (e: MouseEvent) => void; menu: ReactNode } {
  const [opened, setOpened] = useState<Opened<T> | null>(null);
  const onContextMenu = (e: MouseEvent): void => {
    const target = e.target as Element;
    if (target.closest('input, textarea')) return;
    const what = find(target);
    if (what === null) return;
    e.preventDefault();
    e.stopPropagation();
    const box = target.getBoundingClientRect();
    const byKey = e.clientX === 0 && e.clientY === 0;
    const [left, top] = byKey ? [box.left + box.width / 2, box.bottom] : [e.clientX, e.clientY];
    setOpened({ what, left, top });
  };
  if (!opened) return { onContextMenu, menu: null };
  const close = (): void => setOpened(null);
  const done = ({ onDo }: Choice): void => {
    close();
    // Once the menu is gone the focus is back where it was; what is done may lead it elsewhere.
    setTimeout(() => onDo?.(), 0);
  };
  const { of, groups } = choicesFor(opened.what);
  const menu = (
    <MenuList of={of} groups={groups} left={opened.left} top={opened.top} onDo={done} onClose={close} />
  );
  return { onContextMenu, menu };
}
