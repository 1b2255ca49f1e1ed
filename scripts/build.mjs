import { runScript, say, since, Trouble } from './lib/say.mjs';
import { installNpmPackages } from './lib/packages.mjs';
import { build } from './lib/build.mjs';

await runScript(async () => {
  const start = performance.now();
  await installNpmPackages();
  await build();
  say(`Built in ${since(start)}.`);
  if (process.exitCode) throw new Trouble('The build failed.', 'See above.');
});
