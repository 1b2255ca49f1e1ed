interface Part {
  /** Where it begins. */
  x: number;
  y: number;
  /** What follows, relative to the point before. */
  steps: readonly Step[];
}
/** A command in small letters, with its numbers; the radii of an arc are scaled as well, its turn and flags are not. */
interface Step {
  letter: string;
  numbers: readonly number[];
}

/**
 * A path of straight lines and arcs, given in capitals (M L H V A Z), that can be put anywhere in any size: as text of a path
 * of its own, not as a transformed one, of which a browser paints thousands more slowly. Cost of a text: one joining of
 * strings, once a size has been asked for.
 */
export class ScaledPath {
  private readonly parts: readonly Part[];
  private readonly bodies = new Map<number, readonly string[]>();

  constructor(path: string) {
    this.parts = parse(path);
  }

  /** The path around a point, so many times as large. */
  at(x: number, y: number, scale: number): string {
    let bodies = this.bodies.get(scale);
    if (!bodies) {
      // A plan has few sizes at a time; those of a zoom are dropped.
      if (this.bodies.size > 20) this.bodies.clear();
      bodies = this.parts.map(({ steps }) => steps.map((s) => textOf(s, scale)).join(''));
      this.bodies.set(scale, bodies);
    }
    let text = '';
    for (const [i, part] of this.parts.entries()) {
      text += `M${round(x + part.x * scale)} ${round(y + part.y * scale)}${bodies[i]}`;
    }
    return text;
  }
}

function parse(path: string): Part[] {
  const parts: { x: number; y: number; steps: Step[] }[] = [];
  let [x, y] = [0, 0];
  for (const [, letter, rest] of path.matchAll(/([MLHVAZ])([^MLHVAZ]*)/g)) {
    const n = (rest.match(/-?(?:\d+\.?\d*|\.\d+)/g) ?? []).map(Number);
    const from = [x, y];
    const to = (tx: number, ty: number): [number, number] => {
      [x, y] = [tx, ty];
      return [tx - from[0], ty - from[1]];
    };
    if (letter === 'M') {
      [x, y] = n;
      parts.push({ x, y, steps: [] });
      continue;
    }
    const { steps } = parts[parts.length - 1];
    if (letter === 'L') steps.push({ letter: 'l', numbers: to(n[0], n[1]) });
    else if (letter === 'H') steps.push({ letter: 'l', numbers: to(n[0], y) });
    else if (letter === 'V') steps.push({ letter: 'l', numbers: to(x, n[0]) });
    else if (letter === 'A') steps.push({ letter: 'a', numbers: [...n.slice(0, 5), ...to(n[5], n[6])] });
    else {
      [x, y] = [parts[parts.length - 1].x, parts[parts.length - 1].y];
      steps.push({ letter: 'z', numbers: [] });
    }
  }
  return parts;
}
function textOf({ letter, numbers }: Step, scale: number): string {
  const isFixed = (i: number): boolean => letter === 'a' && i >= 2 && i <= 4;
  return letter + numbers.map((n, i) => (isFixed(i) ? n : round(n * scale))).join(' ');
}
/** To a hundredth of a pixel. */
function round(value: number): number {
  return Math.round(value * 100) / 100;
}
