import './style.css';
import { createWorld, type WiringProject, type WiringScene } from '@oquel/runtime';
import { draw } from './draw.js';
import type { Level } from './level.js';
import { Player } from './player.js';
import { send } from './send.js';
import { Trace } from './trace.js';

const WAYS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};
/** A frame never takes more of the game's time than this, in seconds. */
const LONGEST_FRAME = 0.1;

const at = <T extends HTMLElement>(id: string): T => document.getElementById(id) as T;
const read = async <T>(path: string): Promise<T> =>
  (await fetch(new URL(path, document.baseURI))).json() as Promise<T>;

const wiring = await read<WiringProject>('wiring/wiring.json');
const level = await read<Level>('level.json');
// Only the scenes of the ascent were compiled for this game.
const ascent = wiring.loadSets.find((s) => s.name === 'ascent')!.scenes;
const scenes = await Promise.all(
  wiring.scenes.filter((s) => ascent.includes(s.scene)).map((s) => read<WiringScene>(`wiring/${s.file}`)),
);

const trace = new Trace(at('log'));
const world = createWorld(wiring, { record: trace.take });
world.load(...scenes);
const player = new Player(level, world, (asset, cause) =>
  wiring.assets[world.assetAt.get(asset)!].events.filter((e) => e.cause === cause).map((e) => e.name),
);

const canvas = at<HTMLCanvasElement>('ground');
const down = new Set<string>();
let paused = false;

for (const widget of level.things.filter((t) => t.isWidget && isPressed(t.asset))) {
  const button = document.createElement('button');
  button.type = 'button';
  button.textContent = widget.address.slice(widget.address.indexOf(':') + 1);
  button.addEventListener('click', () => player.press(widget));
  at('board').append(button);
}
function isPressed(asset: string): boolean {
  return wiring.assets[world.assetAt.get(asset)!].events.some((e) => e.cause === 'press');
}

addEventListener('keydown', (e) => {
  if (e.key in WAYS) down.add(e.key);
  else if (e.key === 'e' && !e.repeat) player.use();
  else if (e.key === 'p' && !e.repeat) world.pause((paused = !paused));
  else return;
  e.preventDefault();
});
addEventListener('keyup', (e) => down.delete(e.key));
addEventListener('blur', () => down.clear());
at('save').addEventListener('click', () => {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([trace.text], { type: 'application/x-ndjson' }));
  link.download = 'valley-station.trace.jsonl';
  link.click();
  URL.revokeObjectURL(link.href);
});
const session = crypto.randomUUID();
at('send').addEventListener('click', () => {
  at('sent').textContent = 'Sending ...';
  send(trace.text, { name: wiring.name, hash: wiring.hash, session }).then(
    (said) => (at('sent').textContent = said),
    (error: unknown) => (at('sent').textContent = `It was not sent: ${String(error)}`),
  );
});

let last = performance.now();
function frame(now: number): void {
  const seconds = Math.min(LONGEST_FRAME, (now - last) / 1000);
  last = now;
  let [dx, dy] = [0, 0];
  for (const key of down) [dx, dy] = [dx + WAYS[key][0], dy + WAYS[key][1]];
  world.advance(seconds);
  player.walk([dx, dy], seconds);
  show();
  requestAnimationFrame(frame);
}
function show(): void {
  const { clientWidth, clientHeight } = canvas;
  const ratio = devicePixelRatio;
  if (canvas.width !== clientWidth * ratio) canvas.width = clientWidth * ratio;
  if (canvas.height !== clientHeight * ratio) canvas.height = clientHeight * ratio;
  draw(canvas, level, world, player);
  const ribbon = world.instance(`${level.scene}:ribbon`);
  say('ribbon', ribbon?.get('shown') === true ? String(ribbon.get('text')) : '');
  const near = player.near?.address;
  say('near', near === undefined ? '' : `Near: ${near.slice(near.indexOf(':') + 1)}.`);
  canvas.dataset.player = player.at.map((v) => v.toFixed(2)).join(' ');
}
/** Written only when it is other than before: it is read out then. */
function say(id: string, text: string): void {
  if (at(id).textContent !== text) at(id).textContent = text;
}
canvas.focus();
requestAnimationFrame(frame);
