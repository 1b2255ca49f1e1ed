import { cpSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join, posix, relative } from 'node:path';
import { ROOT } from './root.mjs';

/** Pages that lie outside of `docs` and belong to the guide, by the address that they get. */
const ELSEWHERE = { 'packages/runtime/README.md': 'runtime.md', 'demo/README.md': 'demo.md' };
const FONTS = [
  ['sofia-sans-semi-condensed', 400],
  ['sofia-sans-semi-condensed', 600],
  ['spline-sans-mono', 400],
];
/** The pages in the order in which they stand at the side. */
const SIDE = [
  ['Begin', ['README.md', 'first-hour.md', 'concepts.md', 'views.md', 'how-to.md']],
  ['Wiring', ['wire-lines.md', 'rehearsals.md', 'rules/README.md', 'exchange.md', 'formats.md', 'format.md']],
  ['In the game', ['wiring.md', 'runtime.md', 'conformance.md', 'plays.md']],
  ['Builds and programs', ['build-servers.md', 'command-line.md', 'http.md', 'problems.md']],
  ['For a team', ['team-server.md', 'settings.md', 'security.md']],
  [
    'More',
    ['troubleshooting.md', 'demo.md', 'contributing.md', 'architecture.md', 'third-party.md', 'changelog.md'],
  ],
];

/**
 * Makes the guide that the application serves, from the pages in `docs`: an HTML page for each, their pictures, and an index for the
 * search. Nothing in it comes from elsewhere. Cost: the pages.
 */
export async function buildGuide(to) {
  const { Marked } = await import('marked');
  rmSync(to, { recursive: true, force: true });
  mkdirSync(to, { recursive: true });
  const pages = guidePages();
  const index = [];
  for (const [path, text] of pages) {
    const page = render(new Marked(), path, text, pages);
    const file = join(to, htmlName(path));
    mkdirSync(dirname(file), { recursive: true });
    writeFileSync(file, layout(path, page, pages));
    for (const section of page.sections) index.push({ id: index.length, page: htmlName(path), ...section });
  }
  writeFileSync(join(to, 'index.json'), JSON.stringify(index));
  cpSync(join(ROOT, 'docs/screenshots'), join(to, 'screenshots'), { recursive: true });
  for (const name of ['guide.css', 'search.js']) cpSync(join(ROOT, 'scripts/guide', name), join(to, name));
  cpSync(join(ROOT, 'node_modules/minisearch/dist/es/index.js'), join(to, 'minisearch.js'));
  for (const [font, weight] of FONTS) {
    const name = `${font}-latin-${weight}-normal.woff2`;
    cpSync(join(ROOT, `node_modules/@fontsource/${font}/files/${name}`), join(to, name));
  }
}

/** Every page: its address in the guide, and its text. */
export function guidePages() {
  const pages = new Map();
  const folder = join(ROOT, 'docs');
  for (const entry of readdirSync(folder, { recursive: true, withFileTypes: true })) {
    if (!entry.isFile() || !entry.name.endsWith('.md')) continue;
    const file = join(entry.parentPath, entry.name);
    pages.set(relative(folder, file).replaceAll('\\', '/'), readFileSync(file, 'utf8'));
  }
  for (const [file, path] of Object.entries(ELSEWHERE))
    pages.set(path, readFileSync(join(ROOT, file), 'utf8'));
  return pages;
}

/** Where a link of a page leads in the guide, as a path of it; null for what is not part of it. */
export function guideTarget(page, href) {
  const [path] = href.split('#');
  const full = posix.normalize(posix.join(posix.dirname(page), path === '' ? posix.basename(page) : path));
  const elsewhere = ELSEWHERE[full.replace(/^\.\.\//, '')];
  if (elsewhere !== undefined && full.startsWith('../')) return elsewhere;
  return full.startsWith('..') ? null : full;
}

function render(marked, path, text, pages) {
  const sections = [];
  let title = '';
  const known = new Map();
  const renderer = {
    heading({ tokens, depth }) {
      const words = this.parser.parseInline(tokens);
      const plain = words.replace(/<[^>]*>/g, '');
      const anchor = anchorOf(plain, known);
      if (depth === 1) title = plain;
      sections.push({ anchor, title: depth === 1 ? plain : `${title}: ${plain}`, text: '' });
      return `<h${depth} id="${anchor}">${words}</h${depth}>\n`;
    },
    link({ href, tokens }) {
      const words = this.parser.parseInline(tokens);
      if (/^https?:/.test(href)) return `<a href="${href}" rel="noreferrer">${words}</a>`;
      const target = guideTarget(path, href);
      const hash = href.includes('#') ? href.slice(href.indexOf('#')) : '';
      if (target !== null && pages.has(target))
        return `<a href="${upTo(path)}${htmlName(target)}${hash}">${words}</a>`;
      // A file of the checkout.
      return target?.startsWith('screenshots/') ? `<a href="${upTo(path)}${target}">${words}</a>` : words;
    },
    image({ href, text: alt }) {
      return `<img src="${upTo(path)}${guideTarget(path, href)}" alt="${alt}" loading="lazy">`;
    },
  };
  marked.use({ renderer });
  const body = marked.parse(text);
  // What stands under each heading, for the search.
  const parts = body.split(/<h[1-6] id="[^"]*">.*?<\/h[1-6]>/s);
  sections.forEach((section, i) => (section.text = plainText(parts[i + 1] ?? '')));
  return { body, title, sections };
}
function plainText(html) {
  return html
    .replace(/<[^>]*>/g, ' ')
    .replace(/&lt;/g, '<')
    .replace(/&gt;/g, '>')
    .replace(/&quot;/g, '"')
    .replace(/&#39;/g, "'")
    .replace(/&amp;/g, '&')
    .replace(/\s+/g, ' ')
    .trim();
}
/** As most hosts of repositories make it of a heading. */
export function anchorOf(heading, known = new Map()) {
  const plain = heading
    .replace(/<[^>]*>/g, '')
    .replace(/&[a-z#0-9]+;/g, '')
    .toLowerCase()
    .replace(/[^\p{L}\p{N} _-]/gu, '')
    .trim()
    .replaceAll(' ', '-');
  const n = known.get(plain) ?? 0;
  known.set(plain, n + 1);
  return n === 0 ? plain : `${plain}-${n}`;
}
function htmlName(path) {
  return path.replace(/README\.md$/, 'index.html').replace(/\.md$/, '.html');
}
function upTo(path) {
  return '../'.repeat(path.split('/').length - 1);
}

function layout(path, { body, title }, pages) {
  const up = upTo(path);
  const nameOf = (page) => /^# (.*)$/m.exec(pages.get(page))?.[1].replaceAll('`', '') ?? page;
  const side = SIDE.map(
    ([head, own]) =>
      `<h2>${head}</h2><ul>${own
        .filter((page) => pages.has(page))
        .map(
          (page) =>
            `<li><a href="${up}${htmlName(page)}"${page === path ? ' aria-current="page"' : ''}>${nameOf(page)}</a></li>`,
        )
        .join('')}</ul>`,
  ).join('\n');
  return `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>${title} · Oquel guide</title>
<link rel="icon" href="/icon.svg">
<link rel="stylesheet" href="${up}guide.css">
<script type="module" src="${up}search.js" data-up="${up}"></script>
</head>
<body>
<header><a class="home" href="/">OQUEL</a><a href="${up}index.html">Guide</a>
<form role="search"><input type="search" name="q" aria-label="Search the guide" placeholder="Search" autocomplete="off"></form></header>
<div class="guide">
<nav aria-label="Pages">${side}</nav>
<main><section id="found" aria-live="polite" hidden></section><article>${body}</article></main>
</div>
</body>
</html>
`;
}
