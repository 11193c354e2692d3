import { createHash } from 'node:crypto';
import { existsSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';

import { run, tool } from './run.mjs';
import { giveUp, say } from './say.mjs';

const SOURCES = [
  'src',
  'public',
  'package.json',
  'package-lock.json',
  'next.config.ts',
  'tsconfig.json',
  'scripts/lib/build.mjs',
];

/** Where the compiled worker of the server’s thread pool is, and the processes that draw and export, beside what is served. */
export const heavyWorker = (dist) => resolve(dist, 'heavy.mjs');
export const drawingProcess = (dist) => resolve(dist, 'drawing.mjs');
export const exportProcess = (dist) => resolve(dist, 'exports.mjs');

/** Compiles the worker of the thread pool and the processes that draw and export: no framework in them. */
export async function buildWorker(dist) {
  const { build } = await import('esbuild');
  const compiled = (from, outfile) =>
    build({
      entryPoints: [from],
      outfile,
      bundle: true,
      platform: 'node',
      format: 'esm',
      target: 'node20',
      tsconfig: 'tsconfig.json',
      logLevel: 'error',
      // They find wasm, fonts and binaries beside themselves.
      external: ['@hyzyla/pdfium', 'pdfkit', 'pg-native', 'sharp'],
      // Packages of the older kind ask for `require`; others have one of their own.
      banner: {
        js: "import { createRequire as requireFrom } from 'node:module'; globalThis.require ??= requireFrom(import.meta.url);",
      },
    });
  await compiled('src/server/heavy/worker.ts', heavyWorker(dist));
  await compiled('src/server/heavy/drawing/process.ts', drawingProcess(dist));
  await compiled('src/server/exports/process.ts', exportProcess(dist));
}

function filesBelow(path) {
  if (!existsSync(path)) return [];
  if (!statSync(path).isDirectory()) return [path];
  return readdirSync(path)
    .sort()
    .flatMap((name) => filesBelow(join(path, name)));
}

/** Builds into `dist` unless the same sources are built there already. */
export async function ensureBuild(dist) {
  const hash = createHash('sha256');
  for (const file of SOURCES.flatMap(filesBelow)) hash.update(file).update(readFileSync(file));
  const wanted = hash.digest('hex');
  const stamp = join(dist, 'red-plumb-sources');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return;
  say('building (about half a minute) …');
  const [node, next] = tool('next/dist/bin/next');
  const env = { ...process.env, RED_PLUMB_DIST: dist, NEXT_TELEMETRY_DISABLED: '1', NODE_ENV: 'production' };
  const code = await run(node, [next, 'build'], { env, stdio: ['ignore', 'ignore', 'inherit'] });
  if (code !== 0) giveUp('The build did not work; its own message is above.');
  await buildWorker(dist);
  writeFileSync(stamp, wanted);
}
