/** Where the first thing of an ordered list stands that does not come before what is sought. Cost: log of the list. */
export function firstNotBefore(length: number, comesBefore: (place: number) => boolean): number {
  let [low, high] = [0, length];
  while (low < high) {
    const middle = (low + high) >>> 1;
    if (comesBefore(middle)) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** The same in an ascending list, for a number or a text. */
export function lowerBound<T extends number | string>(list: ArrayLike<T>, value: T): number {
  return firstNotBefore(list.length, (place) => list[place] < value);
}
