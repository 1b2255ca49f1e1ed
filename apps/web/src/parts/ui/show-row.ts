import type { Virtualizer } from '@tanstack/react-virtual';

/** A list with rows of known heights, of which only what is in sight is drawn. */
type List = Pick<
  Virtualizer<HTMLElement, Element>,
  'measurementsCache' | 'scrollElement' | 'scrollOffset' | 'scrollRect' | 'scrollToIndex'
>;

/**
 * Scrolls a list to a row, no further than it must; −1 is no row. What the list knows is not measured anew, since that would
 * lay the page out in the middle of a change.
 */
export function showRow(list: List, row: number): void {
  if (row < 0) return;
  const { measurementsCache, scrollElement, scrollOffset, scrollRect } = list;
  const own = measurementsCache[row] as (typeof measurementsCache)[number] | undefined;
  if (!own || !scrollElement || !scrollRect || scrollOffset === null) return list.scrollToIndex(row);
  if (own.start < scrollOffset) scrollElement.scrollTop = own.start;
  else if (own.end > scrollOffset + scrollRect.height) scrollElement.scrollTop = own.end - scrollRect.height;
}
