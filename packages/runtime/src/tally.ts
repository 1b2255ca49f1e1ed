/** When an action was performed last, and how often at that instant. */
export interface Tally {
  instant: number;
  times: number;
}
