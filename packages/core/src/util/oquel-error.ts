/** What can go wrong, for programs; it stays the same over versions. */
export type ErrorCode =
  | 'broken-baseline'
  | 'broken-cell'
  | 'broken-document'
  | 'broken-line'
  | 'broken-table'
  | 'edit-refused'
  | 'merge-refused'
  | 'project-too-large'
  | 'rule-failed'
  | 'rule-refused';

/** Any error that the core throws on purpose. The message is for people: what is wrong, and where. */
export abstract class OquelError extends Error {
  abstract readonly code: ErrorCode;
}
