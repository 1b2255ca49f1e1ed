/** A finding as it was put into words before; its parts are taken over where they are the same again. */
interface Worded {
  fingerprint: string;
  occurrences: readonly (number | string)[];
  texts: string[];
}
/** What was put into words in the last audit, by rule, class and subject. Addresses must have stayed the same. */
export type Wording = Map<string, Worded>;
