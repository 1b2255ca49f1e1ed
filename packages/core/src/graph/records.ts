import {
  FAULT_STRIDE,
  HEARING_STRIDE,
  PUBLICATION_STRIDE,
  SELECTION_STRIDE,
  type BindingRecords,
} from './graph.js';

/** The lists of {@link BindingRecords} with their strides; each row begins with the owner, and owners ascend. */
const LISTS = [
  ['faults', FAULT_STRIDE],
  ['selections', SELECTION_STRIDE],
  ['publications', PUBLICATION_STRIDE],
  ['hearings', HEARING_STRIDE],
] as const;
function empty(): BindingRecords {
  return { faults: [], selections: [], publications: [], hearings: [] };
}

export function isEmpty(records: BindingRecords): boolean {
  return LISTS.every(([name]) => records[name].length === 0);
}

/** The records of some owners, and those of all others. Linear. */
export function splitRecords(
  records: BindingRecords,
  owners: ReadonlySet<number>,
): [of: BindingRecords, others: BindingRecords] {
  const [taken, kept] = [empty(), empty()];
  for (const [name, stride] of LISTS) {
    const list = records[name];
    for (let row = 0; row < list.length; row += stride) {
      const to = owners.has(list[row]) ? taken[name] : kept[name];
      for (let k = 0; k < stride; k++) to.push(list[row + k]);
    }
  }
  return [taken, kept];
}
/** The records of two sets of owners that have none in common. Linear. */
export function joinRecords(a: BindingRecords, b: BindingRecords): BindingRecords {
  const all = empty();
  for (const [name, stride] of LISTS) {
    const [one, other, to] = [a[name], b[name], all[name]];
    let [i, j] = [0, 0];
    while (i < one.length || j < other.length) {
      const isFirst = j >= other.length || (i < one.length && one[i] <= other[j]);
      for (let k = 0; k < stride; k++) to.push(isFirst ? one[i++] : other[j++]);
    }
  }
  return all;
}
