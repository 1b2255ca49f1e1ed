import type { Instance, World } from '@oquel/runtime';
import type { Level, Thing } from './level.js';
import type { Player } from './player.js';

const NIGHT = '#10202c';
const SNOW = '#1d3444';
const LINE = '#35556a';
const PALE = '#c9dde6';
const WARM = '#ffc46b';
const RED = '#ff6f5e';

/** How one thing is drawn, at its place, one unit a metre; `t` in seconds. */
type Painter = (g: CanvasRenderingContext2D, is: (property: string) => unknown, t: number) => void;

const PAINTERS: Readonly<Record<string, Painter>> = {
  Beacon(g, is) {
    disc(g, 0, 0, 0.7, is('lit') === true ? WARM : LINE);
    if (is('lit') === true) glow(g, 6);
  },
  Cabin(g, is, t) {
    const sway = is('moving') === true ? 0.6 * Math.sin(3 * t) : 0;
    g.translate(sway, 0);
    box(g, 3, 2, PALE);
    g.fillStyle = NIGHT;
    // The doors: a gap while they are open.
    if (is('doorsOpen') === true) g.fillRect(-0.6, -0.1, 1.2, 1.2);
    else g.fillRect(-0.05, -0.1, 0.1, 1.2);
  },
  Winch(g, is, t) {
    disc(g, 0, 0, 1.2, SNOW);
    if (is('running') === true) g.rotate(2.5 * t);
    g.strokeStyle = is('running') === true ? WARM : PALE;
    g.lineWidth = 0.25;
    for (let i = 0; i < 3; i++) {
      g.rotate((2 * Math.PI) / 3);
      g.beginPath();
      g.moveTo(0, 0);
      g.lineTo(1.1, 0);
      g.stroke();
    }
  },
  StepMat(g) {
    box(g, 4, 3, '#2a4b60');
  },
  StormHorn(g, is, t) {
    box(g, 1.2, 1.2, PALE);
    if (is('sounding') !== true) return;
    g.strokeStyle = RED;
    g.lineWidth = 0.2;
    for (let i = 0; i < 3; i++) {
      g.globalAlpha = 1 - ((t + i / 3) % 1);
      g.beginPath();
      g.arc(0, 0, 1 + 4 * ((t + i / 3) % 1), 0, 2 * Math.PI);
      g.stroke();
    }
  },
  LineController(g, is) {
    box(g, 1.6, 1.6, SNOW);
    disc(g, 0, 0, 0.5, is('halted') === true ? RED : '#7fd6a0');
  },
  SupplyTent(g, is) {
    g.fillStyle = is('open') === true ? WARM : PALE;
    g.beginPath();
    g.moveTo(-1.5, 1);
    g.lineTo(0, -1.2);
    g.lineTo(1.5, 1);
    g.fill();
  },
  LookoutPost(g, is) {
    g.strokeStyle = is('manned') === true ? WARM : LINE;
    g.lineWidth = 0.3;
    g.strokeRect(-1, -1, 2, 2);
  },
};
const CRATE: Painter = (g) => box(g, 1.2, 1.2, LINE);

/** Draws the place as it is now: everything that changes is read from the world. */
export function draw(canvas: HTMLCanvasElement, level: Level, world: World, player: Player): void {
  const g = canvas.getContext('2d')!;
  const scale = Math.min(canvas.width / level.size[0], canvas.height / level.size[1]);
  g.setTransform(1, 0, 0, 1, 0, 0);
  g.fillStyle = NIGHT;
  g.fillRect(0, 0, canvas.width, canvas.height);
  g.setTransform(
    scale,
    0,
    0,
    scale,
    (canvas.width - level.size[0] * scale) / 2,
    (canvas.height - level.size[1] * scale) / 2,
  );
  drawSlope(g, level);
  const t = world.now / 1e6;
  // What is built into something else is part of its picture; mats lie under everything.
  const drawn = level.things.filter((thing) => !thing.isWidget && !thing.address.includes('/'));
  for (const isMat of [true, false]) {
    for (const thing of drawn) {
      if ((thing.asset === 'StepMat') === isMat) drawThing(g, thing, world.instance(thing.address), t);
    }
  }
  g.save();
  g.translate(...player.at);
  disc(g, 0, 0, 0.9, '#e8f4f8');
  disc(g, 0, -0.2, 0.45, '#b5452f');
  g.restore();
}

function drawThing(g: CanvasRenderingContext2D, thing: Thing, instance: Instance | null, t: number): void {
  if (!instance || instance.gone) return;
  g.save();
  g.translate(...thing.at);
  if (instance.isAsleep) g.globalAlpha = 0.35;
  g.save();
  (PAINTERS[thing.asset] ?? CRATE)(g, (property) => instance.get(property), t);
  g.restore();
  g.fillStyle = PALE;
  g.font = '0.9px sans-serif';
  g.textAlign = 'center';
  g.fillText(thing.address.slice(thing.address.indexOf(':') + 1), 0, 2.6);
  g.restore();
}
/** Lines of the slope: the same each time. */
function drawSlope(g: CanvasRenderingContext2D, { size: [width, height] }: Level): void {
  g.fillStyle = SNOW;
  g.globalAlpha = 0.35;
  for (let i = 0; i < 7; i++) {
    g.beginPath();
    g.moveTo(0, height);
    for (let x = 0; x <= width; x += 2) {
      g.lineTo(x, (i + 1) * (height / 8) + 2.5 * Math.sin(x / 7 + i * 1.7) + 1.2 * Math.sin(x / 3 + i));
    }
    g.lineTo(width, height);
    g.fill();
  }
  g.globalAlpha = 1;
}
function disc(g: CanvasRenderingContext2D, x: number, y: number, r: number, fill: string): void {
  g.fillStyle = fill;
  g.beginPath();
  g.arc(x, y, r, 0, 2 * Math.PI);
  g.fill();
}
function box(g: CanvasRenderingContext2D, width: number, height: number, fill: string): void {
  g.fillStyle = fill;
  g.fillRect(-width / 2, -height / 2, width, height);
}
function glow(g: CanvasRenderingContext2D, radius: number): void {
  const light = g.createRadialGradient(0, 0, 0.5, 0, 0, radius);
  light.addColorStop(0, 'rgba(255, 196, 107, 0.55)');
  light.addColorStop(1, 'rgba(255, 196, 107, 0)');
  g.fillStyle = light;
  g.fillRect(-radius, -radius, 2 * radius, 2 * radius);
}
