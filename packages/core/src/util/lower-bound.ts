/** Where the first number of an ascending list stands that is not less than a value. Cost: log of the list. */
export function lowerBound(list: Int32Array, value: number): number {
  let low = 0;
  let high = list.length;
  while (low < high) {
    const mid = (low + high) >> 1;
    if (list[mid] < value) low = mid + 1;
    else high = mid;
  }
  return low;
}
