import { cssColour } from './css-colour.js';

/** What stands over a picture that leaves the application. */
export interface PictureHead {
  title: string;
  project: string;
  /** `build Storm test`, or the edit that it shows. */
  state: string;
  /** ISO date. */
  date: string;
}
/** A picture that is not on the screen: its elements, and its size in pixels. */
export interface Drawn {
  inner: string;
  width: number;
  height: number;
}
/** What a picture keeps of how it is drawn: its styles stand in sheets that do not go with it. */
const STYLES = [
  'fill',
  'fill-opacity',
  'stroke',
  'stroke-width',
  'stroke-dasharray',
  'stroke-linecap',
  'opacity',
  'font-family',
  'font-size',
  'font-weight',
  'text-anchor',
  'paint-order',
  'visibility',
] as const;
const HEAD = 34;
/** Pixels of a PNG for each of the drawing; and at the most along a side. */
const SCALE = 2;
const MOST_PIXELS = 16_000;

/** A drawing as an SVG that stands by itself, with its head; pictures in it go with it. Cost: its elements. */
export async function standaloneSvg(drawing: SVGSVGElement | Drawn, head: PictureHead): Promise<string> {
  return framed('inner' in drawing ? drawing : await drawnOf(drawing), head);
}
function framed({ inner, width, height }: Drawn, { title, project, state, date }: PictureHead): string {
  const words = [title, project, state, date].filter((w) => w !== '').join(' · ');
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height + HEAD}" viewBox="0 0 ${width} ${height + HEAD}">`,
    `<title>${escaped(words)}</title>`,
    `<rect width="100%" height="100%" fill="${escaped(cssColour('--ground'))}"/>`,
    `<text x="12" y="22" font-family="sans-serif" font-size="14" font-weight="700" fill="${escaped(cssColour('--ink'))}">${escaped(words)}</text>`,
    `<g transform="translate(0 ${HEAD})">`,
    inner,
    '</g>',
    '</svg>\n',
  ].join('\n');
}
async function drawnOf(svg: SVGSVGElement): Promise<Drawn> {
  const { width, height: drawn } = svg.getBoundingClientRect();
  // What a drawing has above its edge on the screen, such as heads of columns that stay in sight there.
  const above = Number(svg.dataset.head ?? 0);
  const height = drawn + above;
  const copy = svg.cloneNode(true) as SVGSVGElement;
  keepStyles(svg, copy);
  for (const hit of copy.querySelectorAll('.hit, [role="button"] > rect.hit')) hit.remove();
  for (const image of copy.querySelectorAll('image')) await embed(image);
  copy.removeAttribute('style');
  if (above > 0) {
    const { x, y, width: w, height: h } = svg.viewBox.baseVal;
    copy.setAttribute('viewBox', `${x} ${y - above} ${w} ${h + above}`);
  }
  copy.setAttribute('x', '0');
  copy.setAttribute('y', '0');
  copy.setAttribute('width', String(width));
  copy.setAttribute('height', String(height));
  // Whatever is drawn beyond its edge is cut there.
  copy.setAttribute('overflow', 'hidden');
  return { inner: new XMLSerializer().serializeToString(copy), width, height };
}
/** A picture in a drawing stands in it, since a file cannot ask the server for it; one that cannot be read is left out. */
async function embed(image: SVGImageElement): Promise<void> {
  const answer = await fetch(image.href.baseVal);
  if (!answer.ok) return image.remove();
  const bytes = new Uint8Array(await answer.arrayBuffer());
  let text = '';
  for (const byte of bytes) text += String.fromCharCode(byte);
  image.setAttribute('href', `data:${answer.headers.get('content-type') ?? ''};base64,${btoa(text)}`);
}
function keepStyles(from: Element, to: Element): void {
  const style = getComputedStyle(from);
  const kept = STYLES.map((name) => `${name}:${style.getPropertyValue(name)}`).join(';');
  to.setAttribute('style', kept);
  const [was, is] = [from.children, to.children];
  for (let i = 0; i < was.length; i++) keepStyles(was[i], is[i]);
}
export function escaped(text: string): string {
  return text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');
}

/** An SVG as a PNG, twice as fine. @throws Error if the browser cannot draw it. */
export async function pngOf(svg: string): Promise<Uint8Array> {
  const image = new Image();
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`;
  await image.decode();
  const scale = Math.min(SCALE, MOST_PIXELS / Math.max(image.width, image.height));
  const canvas = document.createElement('canvas');
  canvas.width = Math.round(image.width * scale);
  canvas.height = Math.round(image.height * scale);
  canvas.getContext('2d')!.drawImage(image, 0, 0, canvas.width, canvas.height);
  const blob = await new Promise<Blob | null>((done) => canvas.toBlob(done, 'image/png'));
  if (!blob) throw new Error('the browser could not draw the picture');
  return new Uint8Array(await blob.arrayBuffer());
}
