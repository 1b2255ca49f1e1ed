/**
 * The layers of the project, the lowest first: a folder may import from those before it in its list, never from one after it.
 * `docs/architecture.md` says what each holds.
 */
const LAYERS = {
  'packages/core/src': [
    'util',
    'project',
    'expand',
    'graph',
    'names',
    'edit',
    'rehearse',
    'catalogue',
    'wireline',
    'geometry',
    'audit',
    'declare',
    'exchange',
    'ripple',
    'compare',
    'export',
    'fix',
    'bulk',
    'rename',
    'presentation',
    'compile',
    'walk',
    'plays',
    'crossings',
    'manifest',
    'tables',
    'lines',
    'typed-names',
  ],
  'apps/server/src': [
    'http',
    'database',
    'team',
    'heavy',
    'projects',
    'audits',
    'edits',
    'builds',
    'exchange',
    'health',
    'live',
    'pictures',
    'plays',
    'retention',
    'openapi',
    'web',
    'worker',
  ],
  'apps/web/src': ['workers', 'api', 'session', 'parts', 'views'],
  '.': ['packages/runtime', 'packages/core', 'apps'],
};

const upwards = Object.entries(LAYERS).flatMap(([root, layers]) =>
  layers.slice(0, -1).map((layer, i) => ({
    name: `${root === '.' ? '' : `${root}/`}${layer}-imports-from-above`,
    comment: 'Layers depend one way; see LAYERS in .dependency-cruiser.mjs.',
    severity: 'error',
    from: { path: `^${folder(root, layer)}/` },
    to: {
      path: `^(${layers
        .slice(i + 1)
        .map((above) => folder(root, above))
        .join('|')})/`,
    },
  })),
);
function folder(root, layer) {
  return root === '.' ? layer : `${root}/${layer}`;
}

/** @type {import('dependency-cruiser').IConfiguration} */
export default {
  forbidden: [
    ...upwards,
    {
      name: 'no-circles',
      comment: 'Two files that need each other are one, or need a third. Types of data may name each other.',
      severity: 'error',
      from: {},
      to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } },
    },
    {
      name: 'views-stand-alone',
      comment: 'What two views share stands in parts.',
      severity: 'error',
      from: { path: '^apps/web/src/views/([^/]+)/' },
      to: { path: '^apps/web/src/views/', pathNot: '^apps/web/src/views/$1/' },
    },
    {
      name: 'applications-stand-alone',
      comment: 'What two applications share stands in the core.',
      severity: 'error',
      from: { path: '^apps/([^/]+)/src/' },
      to: { path: '^apps/', pathNot: '^apps/$1/' },
    },
    {
      name: 'core-has-no-interface',
      comment: 'The core runs anywhere: no framework, no files, no network.',
      severity: 'error',
      from: { path: '^packages/(core|runtime)/src/' },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'runtime-needs-nothing',
      comment: 'A game ships it.',
      severity: 'error',
      from: { path: '^packages/runtime/src/' },
      to: { dependencyTypes: ['npm', 'npm-dev', 'npm-optional', 'npm-peer'] },
    },
    {
      name: 'declared-packages-only',
      comment: 'A package stands in the package.json of the workspace that uses it.',
      severity: 'error',
      from: { path: '^(packages|apps)/[^/]+/src/' },
      to: { dependencyTypes: ['npm-no-pkg', 'npm-unknown', 'unknown', 'undetermined'] },
    },
  ],
  options: {
    doNotFollow: { path: ['node_modules', '/dist/'] },
    exclude: { path: ['/dist/'] },
    tsPreCompilationDeps: true,
    combinedDependencies: false,
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'types', 'node', 'default'],
    },
    tsConfig: { fileName: 'tsconfig.base.json' },
  },
};
