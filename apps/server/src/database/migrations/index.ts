import type { Migration } from 'kysely';
import { m001Projects } from './001-projects.js';
import { m002Builds } from './002-builds.js';
import { m003Presence } from './003-presence.js';
import { m004Authors } from './004-authors.js';
import { m005Streams } from './005-streams.js';
import { m006States } from './006-states.js';
import { m007Pictures } from './007-pictures.js';
import { m008Plays } from './008-plays.js';
import { m009BuildWiring } from './009-build-wiring.js';
import { m010ItemAssets } from './010-item-assets.js';
import { m011IdsByBytes } from './011-ids-by-bytes.js';
import { m012LogAsText } from './012-log-as-text.js';
import { m013Team } from './013-team.js';
import { m014SingleSignOn } from './014-single-sign-on.js';

/** Every migration by name; they run in the order of their names. */
export const MIGRATIONS: Record<string, Migration> = {
  '001-projects': m001Projects,
  '002-builds': m002Builds,
  '003-presence': m003Presence,
  '004-authors': m004Authors,
  '005-streams': m005Streams,
  '006-states': m006States,
  '007-pictures': m007Pictures,
  '008-plays': m008Plays,
  '009-build-wiring': m009BuildWiring,
  '010-item-assets': m010ItemAssets,
  '011-ids-by-bytes': m011IdsByBytes,
  '012-log-as-text': m012LogAsText,
  '013-team': m013Team,
  '014-single-sign-on': m014SingleSignOn,
};
