// npm run correct -- --setup "RIG / MEDIUM" FILE … [-o OUT] · npm run folder -- FOLDER: cut files without a browser.
import { dirname } from 'node:path';
import { fileURLToPath } from 'node:url';

import { inShop } from './lib/inShop.mjs';

process.chdir(dirname(dirname(fileURLToPath(import.meta.url))));
const [what, ...rest] = process.argv.slice(2);
process.exitCode = await inShop(`scripts/${what === 'folder' ? 'folder' : 'correct'}.ts`, rest);
