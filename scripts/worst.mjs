// npm run worst: twenty of the worst drawings, PDFs and pictures are posted at once. Meanwhile pages and scripts are answered, the
// memory of everything together stays within bounds, and the server stops in five seconds. In a database of its own.
import { readdirSync, readFileSync } from 'node:fs';
import { dirname, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

import { ensureBuild, drawingProcess } from './lib/build.mjs';
import { freePort, startCluster } from './lib/cluster.mjs';
import { checkNode, ensureDebian, ensureModules } from './lib/packages.mjs';
import { pause } from './lib/processes.mjs';
import { run, tool } from './lib/run.mjs';
import { serve } from './lib/server.mjs';

const WATCHED_MS = 120_000;
const MOST_MS = 1000;
const MOST_MB = 1500;
const STOPS_WITHIN_MS = 5000;

process.chdir(dirname(dirname(fileURLToPath(import.meta.url))));
checkNode();
await ensureDebian(['postgresql']);
await ensureModules();
await ensureBuild('.next');
const { default: sharp } = await import('sharp');
const { default: PDFDocument } = await import('pdfkit');

/** Soft shadows over a whole poster, one in another: a kilobyte of text, minutes of work. */
const SLOW = `<svg xmlns="http://www.w3.org/2000/svg" width="1000mm" height="1000mm" viewBox="0 0 60 60"><filter id="f" x="-1" y="-1" width="3" height="3">${'<feGaussianBlur stdDeviation="9"/><feTurbulence baseFrequency=".9" numOctaves="9"/>'.repeat(12)}</filter>${'<rect width="60" height="60" filter="url(#f)"/>'.repeat(12)}</svg>`;
const DOCTYPES = `<svg>${'<!DOCTYPE'.repeat(11_000)}`;
/** The largest picture that is taken, from a small file. */
const LARGE = await sharp({ create: { width: 8000, height: 7000, channels: 3, background: '#24507a' } })
  .png()
  .toBuffer();
const pdf = await new Promise((done) => {
  const doc = new PDFDocument({ size: [2000, 2000] });
  const parts = [];
  doc.on('data', (part) => parts.push(part)).on('end', () => done(Buffer.concat(parts)));
  for (let i = 0; i < 60_000; i += 1)
    doc
      .opacity(0.5)
      .lineWidth(40)
      .moveTo((i * 37) % 2000, 0)
      .bezierCurveTo(0, (i * 91) % 2000, 2000, (i * 53) % 2000, (i * 71) % 2000, 2000)
      .stroke();
  doc.end();
});
const KINDS = [
  ['/api/picture', 'image', SLOW, 'a.svg'],
  ['/api/picture', 'image', DOCTYPES, 'b.svg'],
  ['/api/trace', 'image', LARGE, 'c.png', { options: JSON.stringify({ widthMm: 400 }) }],
  ['/api/picture', 'image', pdf, 'd.pdf'],
];

const cluster = await startCluster('postgres-kills', 'red_plumb_worst');
const port = await freePort(3450);
const base = `http://127.0.0.1:${port}`;
const env = {
  ...process.env,
  DATABASE_URL: cluster.url,
  PORT: String(port),
  RED_PLUMB_LOG: resolve('.local', 'worst.log'),
};
const [node, tsx] = tool('tsx/dist/cli.mjs');
await run(node, [tsx, 'scripts/prepareDatabase.ts'], { env });
const server = serve(env, '.next');
const ended = new Promise((gone) => server.once('exit', gone));

const memoryMb = () => {
  const own = readdirSync('/proc').filter((pid) => {
    try {
      const command = readFileSync(`/proc/${pid}/cmdline`, 'latin1');
      return pid === String(server.pid) || command.includes(drawingProcess('.next'));
    } catch {
      return false;
    }
  });
  return own.reduce((sum, pid) => {
    try {
      return sum + (Number(readFileSync(`/proc/${pid}/statm`, 'latin1').split(' ')[1]) * 4096) / 1e6;
    } catch {
      return sum;
    }
  }, 0);
};

try {
  while (
    !(await fetch(`${base}/api/ready`).then(
      (r) => r.ok,
      () => false,
    ))
  )
    await pause(200);
  const script = /src="(\/_next\/static\/[^"]+\.js)"/.exec(await (await fetch(base)).text())[1];
  const answers = new Map();
  const post = async ([path, field, body, name, more = {}]) => {
    const form = new FormData();
    form.set(field, new Blob([body]), name);
    for (const [key, value] of Object.entries(more)) form.set(key, value);
    const words = await fetch(base + path, {
      method: 'POST',
      headers: { Origin: base, Cookie: 'who=KT' },
      body: form,
    }).then(
      async (r) =>
        `${r.status} ${r.headers.get('content-type')?.includes('json') ? (await r.text()).slice(0, 110) : ''}`,
      (error) => `ended: ${error.cause?.code ?? error.message}`,
    );
    answers.set(`${name}: ${words}`, (answers.get(`${name}: ${words}`) ?? 0) + 1);
  };
  const posts = Array.from({ length: 20 }, (_, i) => post(KINDS[i % KINDS.length]));
  let open = true;
  void Promise.all(posts).then(() => (open = false));
  const times = [];
  let most = 0;
  for (const end = Date.now() + WATCHED_MS; open && Date.now() < end;) {
    for (const path of ['/', script]) {
      const begun = performance.now();
      await (await fetch(base + path)).arrayBuffer();
      times.push(performance.now() - begun);
    }
    most = Math.max(most, memoryMb());
    await pause(100);
  }
  times.sort((a, b) => a - b);
  const at = (share) => Math.round(times[Math.floor(share * (times.length - 1))]);
  // More of the slow ones, so that it is busy when it is told to stop.
  posts.push(...Array.from({ length: 6 }, () => post(KINDS[0])));
  await pause(1000);
  const told = performance.now();
  server.kill('SIGTERM');
  await ended;
  const stopped = performance.now() - told;
  await Promise.all(posts);
  console.log(
    `${times.length} answers meanwhile: median ${at(0.5)} ms, 95 of 100 within ${at(0.95)} ms, slowest ${at(1)} ms; ${Math.round(most)} MB at most; stopped ${(stopped / 1000).toFixed(1)} s after it was told to`,
  );
  for (const [words, count] of answers) console.log(`  ${count} × ${words}`);
  process.exitCode = at(0.95) < MOST_MS && most < MOST_MB && stopped < STOPS_WITHIN_MS ? 0 : 1;
} finally {
  server.kill('SIGKILL');
  await cluster.stop();
}
