/**
 * Does something once the next frame has been shown, so that what was clicked answers first: for what follows a choice and
 * may be a moment late. Returns what takes it back.
 */
export function afterPaint(act: () => void): () => void {
  let timer: ReturnType<typeof setTimeout> | undefined;
  const frame = requestAnimationFrame(() => (timer = setTimeout(act)));
  return () => {
    cancelAnimationFrame(frame);
    clearTimeout(timer);
  };
}
