import { manifest, project } from './document.js';
import { withDefinitions, type JsonSchema } from './shape.js';

/**
 * The JSON Schema (draft 2020-12) of `oquel.project/1`, made from the same shapes that read it. It says all but two
 * things: that names are unique within their list, and that naming patterns are valid regular expressions.
 */
export function projectJsonSchema(): JsonSchema {
  return {
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    $id: 'urn:oquel:project:1',
    title: 'Oquel project',
    ...(withDefinitions(project.schema) as object),
  };
}

/** The same of `oquel.declarations/1`, the manifest of a game. */
export function manifestJsonSchema(): JsonSchema {
  return {
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    $id: 'urn:oquel:declarations:1',
    title: 'Oquel declarations',
    ...(withDefinitions(manifest.schema) as object),
  };
}
