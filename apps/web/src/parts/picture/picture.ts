/** What stands over a picture that leaves the application. */
export interface PictureHead {
  title: string;
  project: string;
  /** ISO date. */
  date: string;
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

/** A drawing as an SVG that stands by itself, with its head. Cost: its elements. */
export function standaloneSvg(svg: SVGSVGElement, { title, project, date }: PictureHead): string {
  const { width, height: drawn } = svg.getBoundingClientRect();
  // What a drawing has above its edge on the screen, such as heads of columns that stay in sight there.
  const above = Number(svg.dataset.head ?? 0);
  const height = drawn + above;
  const page = getComputedStyle(document.documentElement);
  const copy = svg.cloneNode(true) as SVGSVGElement;
  keepStyles(svg, copy);
  for (const hit of copy.querySelectorAll('.hit, [role="button"] > rect.hit')) hit.remove();
  const colour = (name: string): string => page.getPropertyValue(name).trim();
  const words = `${title} · ${project} · ${date}`;
  copy.removeAttribute('style');
  if (above > 0) {
    const { x, y, width: w, height: h } = svg.viewBox.baseVal;
    copy.setAttribute('viewBox', `${x} ${y - above} ${w} ${h + above}`);
  }
  copy.setAttribute('x', '0');
  copy.setAttribute('y', String(HEAD));
  copy.setAttribute('width', String(width));
  copy.setAttribute('height', String(height));
  // Whatever is drawn beyond its edge is cut there.
  copy.setAttribute('overflow', 'hidden');
  const inner = new XMLSerializer().serializeToString(copy);
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height + HEAD}" viewBox="0 0 ${width} ${height + HEAD}">`,
    `<title>${escaped(words)}</title>`,
    `<rect width="100%" height="100%" fill="${escaped(colour('--ground'))}"/>`,
    `<text x="12" y="22" font-family="sans-serif" font-size="14" font-weight="700" fill="${escaped(colour('--ink'))}">${escaped(words)}</text>`,
    inner,
    '</svg>\n',
  ].join('\n');
}
function keepStyles(from: Element, to: Element): void {
  const style = getComputedStyle(from);
  const kept = STYLES.map((name) => `${name}:${style.getPropertyValue(name)}`).join(';');
  to.setAttribute('style', kept);
  const [was, is] = [from.children, to.children];
  for (let i = 0; i < was.length; i++) keepStyles(was[i], is[i]);
}
function escaped(text: string): string {
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
