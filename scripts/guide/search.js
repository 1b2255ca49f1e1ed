/* global document */
import MiniSearch from './minisearch.js';

/** So many places are shown. */
const MOST = 20;
const AROUND = 90;
const { up } = document.querySelector('script[data-up]').dataset;
const field = document.querySelector('input[type=search]');
const found = document.querySelector('#found');
const article = document.querySelector('article');

let searching = null;
/** The index is fetched when somebody begins to search. */
function index() {
  searching ??= fetch(`${up}index.json`)
    .then((answer) => answer.json())
    .then((sections) => {
      const search = new MiniSearch({
        fields: ['title', 'text'],
        storeFields: ['title', 'text', 'page', 'anchor'],
        searchOptions: { boost: { title: 3 }, prefix: true, fuzzy: 0.2, combineWith: 'AND' },
      });
      search.addAll(sections);
      return search;
    });
  return searching;
}

async function show() {
  const words = field.value.trim();
  if (words === '') {
    found.hidden = true;
    article.hidden = false;
    return;
  }
  const results = (await index()).search(words).slice(0, MOST);
  if (field.value.trim() !== words) return;
  const list = document.createElement('ul');
  for (const { title, text, page, anchor, terms } of results) {
    const item = document.createElement('li');
    const link = document.createElement('a');
    link.href = `${up}${page}#${anchor}`;
    link.textContent = title;
    const around = document.createElement('p');
    around.textContent = excerpt(text, terms);
    item.append(link, around);
    list.append(item);
  }
  const head = document.createElement('h1');
  head.textContent = results.length === 0 ? `Nothing is found for “${words}”` : `Found for “${words}”`;
  found.replaceChildren(head, list);
  found.hidden = false;
  article.hidden = true;
}
function excerpt(text, terms) {
  const low = text.toLowerCase();
  const places = terms.map((term) => low.indexOf(term)).filter((at) => at >= 0);
  const at = places.length === 0 ? 0 : Math.min(...places);
  const start = Math.max(0, at - AROUND);
  // No word is cut.
  const part = text
    .slice(start, at + AROUND)
    .replace(start > 0 ? /^\S*\s/ : '', '')
    .replace(/\s\S*$/, '');
  return `${start > 0 ? '… ' : ''}${part}${at + AROUND < text.length ? ' …' : ''}`;
}

field.addEventListener('input', () => void show());
field.form.addEventListener('submit', (event) => {
  event.preventDefault();
  found.querySelector('a')?.focus();
});
document.addEventListener('keydown', (event) => {
  if (event.key === 'Escape' && field.value !== '') {
    field.value = '';
    void show();
  } else if (event.key === '/' && document.activeElement !== field) {
    event.preventDefault();
    field.focus();
  }
});
found.addEventListener('click', () => {
  // A place on this very page: the browser does not load it again.
  field.value = '';
  void show();
});
