import { existsSync } from 'node:fs';
import { ensureDebianPackage } from './packages.mjs';
import { Trouble } from './say.mjs';

/** Debian's packages of it: the shell without windows first, which needs an eighth less time for the browser tests. */
const PACKAGES = ['chromium-headless-shell', 'chromium'];
const pathOf = (name) => `/usr/bin/${name}`;

/** The path of the browser that is there. */
export function chromiumPath() {
  return PACKAGES.map(pathOf).find(existsSync) ?? pathOf('chromium');
}

/** Installs Chromium where it is missing. Where the shell cannot be installed, the whole browser does. */
export async function ensureChromium() {
  const [shell, whole] = PACKAGES;
  try {
    await ensureDebianPackage(shell, () => existsSync(pathOf(shell)), 'Chromium');
  } catch (error) {
    if (!(error instanceof Trouble)) throw error;
    await ensureDebianPackage(whole, () => existsSync(pathOf(whole)), 'Chromium');
  }
}
