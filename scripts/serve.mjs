// The web server: the gate, and the application behind it. Started by start.mjs and test.mjs; `--dev` builds as it goes.
import { createServer } from 'node:http';

import next from 'next';

import { callsAction, refusedAction } from './lib/actionBody.mjs';
import { allowedPlaces, answerHeaders, refusedAtGate, requestMarks } from './lib/gate.mjs';

// What is said may go into a file on a full disk: that ends no server.
for (const stream of [process.stdout, process.stderr]) stream.on('error', () => undefined);

const dev = process.argv.includes('--dev');
const port = Number(process.env.PORT ?? 3000);
const hostname = '127.0.0.1';
const places = allowedPlaces(port, process.env.RED_PLUMB_ADDRESS);

const app = next({ dev, hostname, port });
await app.prepare();
const answer = app.getRequestHandler();
const upgrade = app.getUpgradeHandler();

const server = createServer((request, response) => {
  const marks = requestMarks();
  for (const [name, value] of Object.entries(answerHeaders(request.url, marks, dev)))
    response.setHeader(name, value);
  const refused = refusedAtGate(request, places);
  if (refused) return refuse(request, response, refused);
  // The application puts this nonce on its scripts, and this number into its log.
  request.headers['content-security-policy'] = response.getHeader('Content-Security-Policy');
  request.headers['x-request-id'] = marks.id;
  answered(request, response).catch(() => {
    if (!response.headersSent) refuse(request, response, [500, 'bug', `Our fault; request ${marks.id}.`]);
    else response.destroy();
  });
});

async function answered(request, response) {
  const refused = callsAction(request) ? await refusedAction(request) : null;
  if (refused) refuse(request, response, refused);
  else await answer(request, response);
}

// A body that does not end, or headers that come drop by drop, hold nobody else up.
server.headersTimeout = 20_000;
server.requestTimeout = 120_000;
server.on('upgrade', (request, socket, head) => {
  const { url, headers, rawHeaders } = request;
  if (refusedAtGate({ method: 'GET', url, headers, rawHeaders }, places)) socket.destroy();
  else upgrade(request, socket, head);
});
server.on('error', (error) => {
  console.error(`red plumb  the server cannot listen on port ${port}: ${error.message}`);
  process.exit(1);
});
server.listen(port, hostname);

/**
 * Lets those who are being answered finish; a second signal, or four seconds, ends it at once. By a signal: an exit waits for
 * threads that a library may keep busy.
 */
const endNow = () => {
  // What it had drawn by processes of its own goes with it.
  process.emit('red-plumb-ends');
  process.kill(process.pid, 'SIGKILL');
};
let ending = false;
for (const signal of ['SIGTERM', 'SIGINT'])
  process.on(signal, () => {
    if (ending) endNow();
    ending = true;
    setTimeout(endNow, 4000).unref();
    server.close(() => {
      setTimeout(endNow, 500).unref();
      process.exit(0);
    });
    server.closeIdleConnections();
  });

function refuse(request, response, [status, code, message, more = {}]) {
  response.writeHead(status, { 'Content-Type': 'application/json', ...more, Connection: 'close' });
  response.end(JSON.stringify({ error: { code, message } }));
  request.resume();
  setTimeout(() => request.destroy(), 500).unref();
}
