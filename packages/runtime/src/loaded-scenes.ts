import type { Instance, Scene } from './instance.js';
import { instanceAt, placeIn } from './naming.js';

/** The scenes that are loaded, in the order of the project, and what addresses name in them. */
export class LoadedScenes {
  scenes: readonly Scene[] = [];
  /** By address, as far as they have been looked up. */
  private readonly known = new Map<string, Instance>();

  add(more: readonly Scene[]): void {
    this.scenes = [...this.scenes, ...more].sort((a, b) => a.order - b.order);
    this.known.clear();
  }
  /** Whether there was such a scene. */
  remove(name: string): boolean {
    const scene = this.called(name);
    if (!scene) return false;
    scene.loaded = false;
    this.scenes = this.scenes.filter((s) => s !== scene);
    this.known.clear();
    return true;
  }
  called(name: string): Scene | undefined {
    return this.scenes.find((s) => s.file.scene === name);
  }
  /** What an address names; null for nothing. */
  instance(address: string): Instance | null {
    const known = this.known.get(address);
    if (known) return known;
    const { scene, path } = this.split(address);
    const instance = scene ? instanceAt(scene, path) : null;
    // Which copy an address names changes.
    if (instance && !instance.copy) this.known.set(address, instance);
    return instance;
  }
  /** The placed instance that an address names, by its scene and number there. */
  placeOf(address: string): { scene: Scene; at: number } | null {
    const { scene, path } = this.split(address);
    const at = scene ? placeIn(scene, path) : -1;
    return at < 0 ? null : { scene: scene!, at };
  }
  private split(address: string): { scene: Scene | undefined; path: string } {
    const colon = address.indexOf(':');
    return {
      scene: this.called(address.slice(0, Math.max(0, colon))),
      path: address.slice(colon + 1),
    };
  }
}
