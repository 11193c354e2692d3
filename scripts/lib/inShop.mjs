import { startCluster } from './cluster.mjs';
import { checkNode, ensureDebian, ensureModules } from './packages.mjs';
import { run, tool } from './run.mjs';
import { giveUp, wordsOf } from './say.mjs';

/** Runs one of our TypeScript scripts with the shop's database, which is started for it when nobody has it open. */
export async function inShop(script, words) {
  process.on('uncaughtException', (error) => giveUp(wordsOf(error)));
  checkNode();
  const given = process.env.DATABASE_URL;
  if (!given) await ensureDebian(['postgresql']);
  await ensureModules();
  const cluster = given ? { url: given, stop: () => undefined } : await startCluster('postgres', 'red_plumb');
  // Ctrl-C goes to the script, which ends in its own time; the database is stopped after it.
  process.on('SIGINT', () => undefined);
  try {
    const [node, tsx] = tool('tsx/dist/cli.mjs');
    return await run(node, [tsx, script, ...words], {
      env: { ...process.env, DATABASE_URL: cluster.url },
    });
  } finally {
    await cluster.stop();
  }
}
