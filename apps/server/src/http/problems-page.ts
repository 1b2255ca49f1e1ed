import { PROBLEM_TYPES } from './problem-types.js';

/** The page on all types of problem, as Markdown. */
export function problemsPage(): string {
  const rows = Object.entries(PROBLEM_TYPES).map(
    ([type, { status, what, fix }]) => `| \`${type}\` | ${[status].flat().join(', ')} | ${what} | ${fix} |`,
  );
  return `# Problems

Whatever the server refuses or cannot do it answers with \`application/problem+json\` ([RFC 9457](https://www.rfc-editor.org/rfc/rfc9457)):

\`\`\`json
{
  "type": "urn:oquel:problem:no-project",
  "title": "No such project",
  "status": 404,
  "detail": "there is no project of that id",
  "request": "5c0a1f0e-8b7e-4a0c-9b0e-0d2f6f8f2a11"
}
\`\`\`

\`type\` is stable; \`title\` and \`detail\` are for people and may change. \`request\` stands in the server's log too. Requests that
store something take a key: sent again with the same key, they are done once.

| type | status | what has happened | what to do |
| --- | --- | --- | --- |
${rows.join('\n')}
`;
}
