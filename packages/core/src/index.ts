/** All of the core. Whoever needs a part of it imports the part: `@oquel/core/model`, `/audit`, `/edit` and so on. */
export * from './entries/model.js';
export * from './entries/audit.js';
export * from './entries/edit.js';
export * from './entries/rehearse.js';
export * from './entries/notation.js';
export * from './entries/export.js';
