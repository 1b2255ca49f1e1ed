import type { Virtualizer } from '@tanstack/react-virtual';

/** A list with rows of known heights, of which only what is in sight is drawn. */
type List = Pick<
  Virtualizer<HTMLElement, Element>,
  'measurementsCache' | 'scrollElement' | 'scrollOffset' | 'scrollRect' | 'scrollToIndex'
> & { options: { scrollPaddingEnd?: number } };
/** More than a scroll bar takes. Pixels. */
const BAR = 20;

/**
 * Scrolls a list to a row, no further than it must; −1 is no row. Where the row is in sight, nothing is measured, since that would
 * lay the page out in the middle of a change.
 */
export function showRow(list: List, row: number): void {
  if (row < 0) return;
  const { measurementsCache, scrollElement, scrollOffset, scrollRect, options } = list;
  const own = measurementsCache[row] as (typeof measurementsCache)[number] | undefined;
  if (!own || !scrollElement || !scrollRect || scrollOffset === null) return list.scrollToIndex(row);
  if (own.start < scrollOffset) {
    scrollElement.scrollTop = own.start;
    return;
  }
  const end = own.end + (options.scrollPaddingEnd ?? 0);
  if (end <= scrollOffset + scrollRect.height - BAR) return;
  scrollElement.scrollTop = Math.max(scrollOffset, end - scrollElement.clientHeight);
}
