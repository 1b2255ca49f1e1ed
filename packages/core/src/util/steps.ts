/** How far long work is: what is done next, and how many of its steps lie behind. */
export interface WorkStep {
  /** What is done next, such as "building the graph". */
  doing: string;
  done: number;
  of: number;
}

/** Does work in steps to its end at once. */
export function finish<T>(work: Generator<unknown, T>): T {
  for (;;) {
    const step = work.next();
    if (step.done) return step.value;
  }
}
/** Work whose steps together are some of the steps of larger work: from `done` on, `share` of `of`. */
export function* asPart<T>(
  work: Generator<WorkStep, T>,
  { done, share, of }: { done: number; share: number; of: number },
): Generator<WorkStep, T> {
  for (;;) {
    const step = work.next();
    if (step.done) return step.value;
    const part = (step.value.done / step.value.of) * share;
    yield { doing: step.value.doing, done: done + part, of };
  }
}
