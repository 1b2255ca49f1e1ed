import { SETTINGS } from './settings.js';

/** The page on all settings, as Markdown. */
export function settingsPage(): string {
  const rows = Object.values(SETTINGS).map(({ name, usual, what }) => `| \`${name}\` | ${usual} | ${what} |`);
  return `# Settings

The server takes its settings from the environment and looks at all of them as it starts: where one is wrong it says which, and
does not start. An empty variable is none. \`npm start\` sets those of the database and passes the others on.

| variable | without it | what it is for |
| --- | --- | --- |
${rows.join('\n')}

Bounds that are no settings stand in one place, \`apps/server/src/limits.ts\`, and those of documents in
\`packages/core/src/limits.ts\`.
`;
}
