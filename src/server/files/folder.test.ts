import { spawn } from 'node:child_process';
import { mkdir, mkdtemp, readdir, readFile, rm, utimes, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';

import { eq } from 'drizzle-orm';

import { SHEET_FRAME } from '@/core/daily';
import { textOf } from '@/core/drawing/file';
import { correctedFiles, rigs } from '@/db/schema';
import { addRig } from '@/server/rigs/writeRig';
import { archiveSetup } from '@/server/setups/archiveSetup';
import { getSetup } from '@/server/setups/repository';
import { replaceStanding, standingOf } from '@/server/setups/standing';
import { addressOf, freshDeps } from '@test/database';
import { asDxf } from '@test/foreignFiles';
import { linesOfDxf } from '@test/machine/readers';

import { layFolders, takeFile, waitingIn } from './folder';
import { moveInto, placeWhole } from './placeWhole';

/* The folder that corrects: nothing lost, nothing half, nothing over another, nothing twice. */

let deps: Awaited<ReturnType<typeof freshDeps>>;
let root: string;
beforeAll(async () => {
  deps = await freshDeps('folder');
});
afterAll(() => deps.close());
beforeEach(async () => {
  root = await mkdtemp(join(tmpdir(), 'red-plumb-folder-'));
});
afterEach(() => rm(root, { recursive: true, force: true }));

let count = 0;
async function aSetup(media = 'silver foil'): Promise<string> {
  count += 1;
  const added = await addRig(deps, 'KT', {
    ...{ name: `Rig ${count}`, printer: `printer ${count}`, cutter: `cutter ${count}`, media },
    ...{ sheetWidthMm: 210, sheetHeightMm: 297, marginLeftMm: 10, marginNearMm: 15 },
    ...{ areaWidthMm: 190, areaHeightMm: 270, toleranceMm: 0.4, fileFrame: SHEET_FRAME },
    settings: [
      {
        name: 'X',
        unit: 'mm',
        step: 0.05,
        value: 0.85,
        min: -9,
        max: 9,
        display: 'signed',
        direction: 'right',
      },
    ],
  });
  if (!added.ok) throw new Error(JSON.stringify(added.refusal));
  const setup = (await getSetup(deps, added.value.setupId))!;
  const fileTransform = { a11: 1, a12: 0, a21: 0, a22: 1, tx: 0.5, ty: -0.25 };
  await replaceStanding(
    deps,
    'KT',
    setup.id,
    { ...standingOf(setup), fileTransform },
    { source: 'accepted' },
  );
  return setup.id;
}

const drawn = (n: number): string => asDxf([[20, 30 + n, 120, 30 + n]]);
const put = (folder: string, name: string, text: string) => writeFile(join(folder, 'in', name), text);
const listed = async (folder: string, part: string): Promise<string[]> =>
  (await readdir(join(folder, part))).sort();
const sweep = async (folder: string) => {
  const kinds: string[] = [];
  for (const path of await waitingIn(folder)) kinds.push((await takeFile(deps, path)).kind);
  return kinds;
};
const kept = (setupId: string) => deps.db.$count(correctedFiles, eq(correctedFiles.setupId, setupId));

test('what is put in comes out corrected, with a report; the original is kept apart', async () => {
  const setupId = await aSetup();
  const folder = (await layFolders(deps, root)).get(setupId)!;
  await put(folder, 'tags.dxf', drawn(1));
  await put(folder, 'bad.dxf', 'hello');
  expect(await sweep(folder)).toEqual(['refused', 'corrected']);
  expect(await listed(folder, 'out')).toEqual(['tags-for-silver-foil.dxf', 'tags-for-silver-foil.dxf.txt']);
  const out = await readFile(join(folder, 'out', 'tags-for-silver-foil.dxf'), 'utf8');
  expect(linesOfDxf(out)).toEqual([[19.5, 31.25, 119.5, 31.25]]);
  const report = await readFile(join(folder, 'out', 'tags-for-silver-foil.dxf.txt'), 'utf8');
  expect(report).toMatch(/farthest point moves 0\.56 mm/);
  expect(report).toContain('the machine must show: X 0.85 mm.');
  expect(await listed(folder, 'done')).toEqual(['tags.dxf']);
  expect(await listed(folder, 'refused')).toEqual(['bad.dxf', 'bad.dxf.txt']);
  expect(await listed(folder, 'in')).toEqual([]);
});

test('what a pulled plug left half written is taken away, once it is old, and nothing else', async () => {
  const setupId = await aSetup();
  const folder = (await layFolders(deps, root)).get(setupId)!;
  const out = join(folder, 'out');
  const ours = `.${crypto.randomUUID()}.unfinished`;
  for (const name of [ours, '.theirs.unfinished', 'tags.unfinished'])
    await writeFile(join(out, name), 'half');
  await layFolders(deps, root);
  expect(await listed(folder, 'out')).toHaveLength(3);
  const old = new Date(Date.now() - 20 * 60_000);
  for (const name of await listed(folder, 'out')) await utimes(join(out, name), old, old);
  await layFolders(deps, root);
  expect(await listed(folder, 'out')).toEqual(['.theirs.unfinished', 'tags.unfinished']);
});

test('two files of one name: both come out, neither over the other', async () => {
  const setupId = await aSetup();
  const folder = (await layFolders(deps, root)).get(setupId)!;
  for (const n of [1, 2]) {
    await put(folder, 'tags.dxf', drawn(n));
    expect(await sweep(folder)).toEqual(['corrected']);
  }
  const outs = (await listed(folder, 'out')).filter((n) => !n.endsWith('.txt'));
  expect(outs).toEqual(['tags-for-silver-foil-2.dxf', 'tags-for-silver-foil.dxf']);
  expect(await listed(folder, 'done')).toEqual(['tags-2.dxf', 'tags.dxf']);
});

test('stopped before the original was moved: it goes on, and nothing is made twice', async () => {
  const setupId = await aSetup();
  const folder = (await layFolders(deps, root)).get(setupId)!;
  const path = join(folder, 'in', 'tags.dxf');
  await writeFile(path, drawn(1));
  const [before, after] = [join(root, 'before'), join(folder, 'done')];
  await mkdir(before);
  // As a kill leaves it: kept in the log, in `out`, and still in `in`.
  await rm(after, { recursive: true });
  expect(await takeFile(deps, path)).toMatchObject({ kind: 'later' });
  await mkdir(after);
  expect(await sweep(folder)).toEqual(['corrected']);
  expect(await kept(setupId)).toBe(1);
  expect((await listed(folder, 'out')).length).toBe(2);
});

test('a renamed setup keeps its folder; one off the bench refuses; two of one name are told apart', async () => {
  const setupId = await aSetup();
  const folder = (await layFolders(deps, root)).get(setupId)!;
  const setup = (await getSetup(deps, setupId))!;
  await deps.db.update(rigs).set({ name: 'Renamed' }).where(eq(rigs.id, setup.rigId));
  expect((await layFolders(deps, root)).get(setupId)).toBe(folder);
  await put(folder, 'tags.dxf', drawn(1));
  expect(await sweep(folder)).toEqual(['corrected']);
  const other = await aSetup();
  const otherRig = (await getSetup(deps, other))!.rigId;
  await deps.db.update(rigs).set({ name: 'Renamed' }).where(eq(rigs.id, otherRig));
  await rm(root, { recursive: true });
  const laid = await layFolders(deps, root);
  expect(new Set([...laid.values()]).size).toBe(laid.size);
  await archiveSetup(deps, 'KT', { setupId, archived: true });
  const first = laid.get(setupId)!;
  await put(first, 'late.dxf', drawn(2));
  expect(await sweep(first)).toEqual(['refused']);
  expect(await readFile(join(first, 'refused', 'late.dxf.txt'), 'utf8')).toMatch(/put away/);
});

test('a file that somebody took away meanwhile is let be', async () => {
  const setupId = await aSetup();
  const folder = (await layFolders(deps, root)).get(setupId)!;
  expect(await takeFile(deps, join(folder, 'in', 'gone.dxf'))).toEqual({ kind: 'gone' });
});

test('a file that came out of here is refused, with why', async () => {
  const setupId = await aSetup();
  const folder = (await layFolders(deps, root)).get(setupId)!;
  await put(folder, 'tags.dxf', drawn(1));
  await sweep(folder);
  await put(folder, 'again.dxf', await readFile(join(folder, 'out', 'tags-for-silver-foil.dxf'), 'utf8'));
  expect(await sweep(folder)).toEqual(['refused']);
  expect(await readFile(join(folder, 'refused', 'again.dxf.txt'), 'utf8')).toMatch(/corrected already/);
});

test('a full disk: nothing is left half, the original stays, and later it goes on', async () => {
  // A file may have 2 KB at most: the next write fails in the middle, as on a full disk.
  const program = `
    import('./src/server/files/placeWhole.ts').then(async (m) => {
      await (m.placeWhole ?? m.default.placeWhole)(process.argv[1], 'a.dxf', 'x'.repeat(100000)).then(() => console.log('written'), (e) => console.log(e.code));
    });`;
  const said = await new Promise<string>((resolve) => {
    const child = spawn('bash', [
      '-c',
      `ulimit -f 2; trap '' XFSZ; exec node_modules/.bin/tsx -e "$0" "$1"`,
      program,
      root,
    ]);
    let text = '';
    child.stdout.on('data', (d: Buffer) => (text += d.toString()));
    child.stderr.on('data', (d: Buffer) => (text += d.toString()));
    child.on('exit', () => resolve(text));
  });
  expect(said).toMatch(/EFBIG|ENOSPC/);
  expect(await readdir(root)).toEqual([]);
});

test('placed and moved files never take another’s name away', async () => {
  expect(await placeWhole(root, 'a.txt', 'one')).toBe('a.txt');
  expect(await placeWhole(root, 'a.txt', 'one')).toBe('a.txt');
  expect(await placeWhole(root, 'a.txt', 'two')).toBe('a-2.txt');
  await mkdir(join(root, 'in'));
  await writeFile(join(root, 'in', 'a.txt'), 'three');
  expect(await moveInto(join(root, 'in', 'a.txt'), root)).toBe('a-3.txt');
  expect(await readFile(join(root, 'a.txt'), 'utf8')).toBe('one');
});

/** The watcher as its own process, until it is killed. */
function watching(): { kill: () => Promise<void> } {
  const child = spawn(process.execPath, ['node_modules/tsx/dist/cli.mjs', 'scripts/folder.ts', root], {
    env: {
      ...process.env,
      DATABASE_URL: addressOf('red_plumb_jest_folder'),
      ...{ RED_PLUMB_SETTLED_MS: '400', RED_PLUMB_LOOK_AGAIN_MS: '1000', INIT_CWD: process.cwd() },
    },
    stdio: 'ignore',
    detached: true,
  });
  const gone = new Promise<void>((resolve) => child.on('exit', () => resolve()));
  return {
    kill: async () => {
      process.kill(-child.pid!, 'SIGKILL');
      await gone;
    },
  };
}

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

test('killed again and again, with a file that is still being written: each file comes out once, whole', async () => {
  const setupId = await aSetup();
  const folder = (await layFolders(deps, root)).get(setupId)!;
  const names = Array.from({ length: 24 }, (_, i) => `tag-${String(i).padStart(2, '0')}.dxf`);
  for (let round = 0; round < 4; round += 1) {
    const watcher = watching();
    for (const [i, name] of names.slice(6 * round, 6 * round + 6).entries()) {
      await put(folder, name, drawn(6 * round + i));
      await pause(120);
    }
    // Somewhere in the middle of them.
    await pause(1200 + 500 * round);
    await watcher.kill();
  }
  const watcher = watching();
  // A slow writer: half of it first, and the rest in its own time.
  const whole = drawn(90);
  await put(folder, 'slow.dxf', whole.slice(0, 60));
  for (let at = 60; at < whole.length; at += 20) {
    await writeFile(join(folder, 'in', 'slow.dxf'), whole.slice(at, at + 20), { flag: 'a' });
    await pause(100);
  }
  for (let i = 0; i < 300 && (await waitingIn(folder)).length > 0; i += 1) await pause(200);
  await watcher.kill();
  const all = [...names, 'slow.dxf'];
  expect(await listed(folder, 'in')).toEqual([]);
  expect(await listed(folder, 'refused')).toEqual([]);
  expect(await listed(folder, 'done')).toEqual([...all].sort());
  const outs = (await listed(folder, 'out')).filter((n) => n.endsWith('.dxf') && !n.startsWith('.'));
  expect(outs).toEqual(all.map((n) => `${basename(n, '.dxf')}-for-silver-foil.dxf`).sort());
  for (const out of outs)
    expect(linesOfDxf(await readFile(join(folder, 'out', out), 'utf8'))).toHaveLength(1);
  expect(await kept(setupId)).toBe(all.length);
});

test('names of layers in an older encoding are read as what they are', () => {
  const latin = Uint8Array.from([0x41, 0x75, 0xdf, 0x65, 0x6e]);
  expect(textOf(latin)).toBe('Außen');
  expect(textOf(new TextEncoder().encode('\ufeffAußen'))).toBe('Außen');
});
