import type { Asset, FromGame, Project } from '../project/types.js';

/** The project without what says where things are declared: for comparing what the game means. Linear. */
export function withoutMarks(project: Project): Project {
  const { enums, tables, channels, assets } = project;
  return {
    ...project,
    ...(enums ? { enums: enums.map(bare) } : {}),
    ...(tables ? { tables: tables.map(bare) } : {}),
    ...(channels ? { channels: channels.map(bare) } : {}),
    assets: assets.map((asset) => {
      const next: Asset = bare(asset);
      for (const part of PARTS) {
        const list = next[part];
        if (list) Object.assign(next, { [part]: (list as FromGame[]).map(bare) });
      }
      return next;
    }),
  };
}
const PARTS = ['properties', 'events', 'actions', 'placements'] as const;

/** The very same where it has no marks. */
function bare<T extends FromGame>(item: T): T {
  if (item.origin === undefined && item.source === undefined) return item;
  const { origin: _origin, source: _source, ...rest } = item;
  return rest as T;
}
