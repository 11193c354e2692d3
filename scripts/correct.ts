import { readFile, stat } from 'node:fs/promises';
import { basename, dirname, resolve } from 'node:path';
import { parseArgs } from 'node:util';

import { CUT_FORMATS, type CutFormat } from '@/core/drawing/formats';

import { textOf } from '../src/core/drawing/file';
import { closeDatabase, database } from '../src/db/client';
import { correctForSetup } from '../src/server/files/dailyFile';
import { placeWhole } from '../src/server/files/placeWhole';
import { reportLines } from '../src/server/files/report';
import { findSetup, setupTitle } from '../src/server/setups/find';
import { listSetups } from '../src/server/setups/repository';

/* correct --setup "RIG / MEDIUM" FILE … [-o OUT]. Run through `npm run correct`, which finds the database. */

const USAGE = `npm run correct -- --setup "RIG / MEDIUM" FILE … [-o OUT] [--to svg|dxf|hpgl] [--frame setup|sheet] [--again] [--cut-layer NAME …] [--who KT]
npm run correct -- --list`;

class Usage extends Error {}

const say = (words: string): void => console.log(`red plumb  ${words}`);

function options(words: readonly string[]) {
  try {
    return parseArgs({
      args: [...words],
      allowPositionals: true,
      options: {
        setup: { type: 'string' },
        out: { type: 'string', short: 'o' },
        to: { type: 'string' },
        frame: { type: 'string', default: 'setup' },
        again: { type: 'boolean', default: false },
        'cut-layer': { type: 'string', multiple: true, default: [] },
        who: { type: 'string', default: 'script' },
        list: { type: 'boolean', default: false },
      },
    });
  } catch (error) {
    throw new Usage((error as Error).message);
  }
}

async function main(words: readonly string[]): Promise<void> {
  const { values, positionals } = options(words);
  const deps = { db: database(), now: () => new Date(), origin: '' };
  if (values.list) {
    for (const setup of await listSetups(deps)) console.log(setupTitle(setup));
    return;
  }
  if (!values.setup) throw new Usage('Say for which setup.');
  if (positionals.length === 0) throw new Usage('Name the files to correct.');
  if (!['setup', 'sheet'].includes(values.frame)) throw new Usage('--frame is “setup” or “sheet”.');
  const to = values.to === undefined ? null : CUT_FORMATS.find((f) => f === values.to);
  if (to === undefined) throw new Usage(`--to is ${CUT_FORMATS.join(', ')}.`);
  if (values.out && positionals.length > 1 && !(await isFolder(values.out)))
    throw new Usage('Many files want a folder after -o.');
  const found = await findSetup(deps, values.setup);
  if (!found.ok) throw new Error(found.refusal);
  for (const path of positionals) {
    const from = resolve(process.env.INIT_CWD ?? '.', path);
    const done = await correctForSetup(deps, values.who, {
      setupId: found.value.id,
      fileName: basename(from),
      text: textOf(await readFile(from)),
      to: to satisfies CutFormat | null,
      own: values.frame === 'sheet',
      again: values.again,
      cutAll: values['cut-layer'],
      cameBy: 'script',
    });
    if (!done.ok) {
      console.error(`red plumb  ${path}: ${done.refusal.message}`);
      process.exitCode = 1;
      continue;
    }
    const [folder, name] = await placeOf(values.out, from, done.value.fileName);
    const as = await placeWhole(folder, name, done.value.content);
    if (as !== name) say(`${name} is there already and stays; this one is ${as}`);
    for (const line of reportLines({ ...done.value, fileName: as }, setupTitle(found.value))) say(line);
  }
}

const outside = (path: string): string => resolve(process.env.INIT_CWD ?? '.', path);

const isFolder = (path: string): Promise<boolean> =>
  stat(outside(path)).then(
    (s) => s.isDirectory(),
    () => false,
  );

/** Beside the file, unless a folder or a name was given. */
async function placeOf(out: string | undefined, from: string, name: string): Promise<[string, string]> {
  if (out === undefined) return [dirname(from), name];
  return (await isFolder(out)) ? [outside(out), name] : [dirname(outside(out)), basename(out)];
}

main(process.argv.slice(2))
  .catch((error: Error) => {
    console.error(`red plumb  ${error.message}${error instanceof Usage ? `\n${USAGE}` : ''}`);
    process.exitCode = error instanceof Usage ? 2 : 1;
  })
  .finally(() => closeDatabase());
