import assert from 'node:assert/strict';
import { createServer } from 'node:http';
import { test } from 'node:test';

import { callsAction, refusedAction, sound } from './actionBody.mjs';

test('a list of plain values is sound, whatever words are in it; nothing else is', () => {
  for (const text of [
    '[]',
    '[{"a":[1,null,true,"x"]}]',
    '["$$1 each","$undefined","$D2026-01-01T00:00:00Z","$n12"]',
  ])
    assert.equal(sound(text), true, text);
  for (const text of [
    '',
    'junk',
    'null',
    '{}',
    '"x"',
    '["$F1"]',
    '[{"a":"$Q9"}]',
    '["$1"]',
    '["$K1"]',
    '['.repeat(90) + ']'.repeat(90),
    '['.repeat(50_000),
  ])
    assert.equal(sound(text), false, text.slice(0, 20));
});

test('what was looked at is read again as it came, in one piece or in many', async (t) => {
  const server = createServer(async (request, response) => {
    const refused = callsAction(request) ? await refusedAction(request) : null;
    if (refused) {
      response.writeHead(refused[0]).end();
      request.resume();
      return;
    }
    let got = '';
    for await (const chunk of request) got += chunk;
    response.end(got);
  });
  await new Promise((ready) => server.listen(0, '127.0.0.1', ready));
  t.after(() => server.close());
  const url = `http://127.0.0.1:${server.address().port}/`;
  const send = (body, headers = {}) =>
    fetch(url, {
      method: 'POST',
      body,
      headers: { 'next-action': 'x', 'content-type': 'text/plain', ...headers },
    });
  const large = JSON.stringify([{ itemFile: 'é'.repeat(2_000_000) }]);
  for (const body of ['[]', '[1]', large]) {
    const answer = await send(body);
    assert.equal(answer.status, 200);
    assert.equal(await answer.text(), body);
  }
  for (const [body, headers] of [
    ['junk'],
    [''],
    ['{}'],
    ['[]', { 'content-type': 'multipart/form-data; boundary=x' }],
    ['a=b', { 'content-type': 'application/x-www-form-urlencoded' }],
  ])
    assert.equal((await send(body, headers)).status, 400);
  // Passed on by the framework: in pieces, without a length.
  const pieces = () => new Blob(['[1]']).stream();
  const passedOn = {
    method: 'POST',
    duplex: 'half',
    headers: { 'next-action': 'x', 'content-type': 'text/plain' },
  };
  assert.equal((await fetch(url, { ...passedOn, body: pieces() })).status, 400);
  const headers = { ...passedOn.headers, 'x-action-forwarded': '1' };
  assert.equal(await (await fetch(url, { ...passedOn, headers, body: pieces() })).text(), '[1]');
  // No action: none of our business.
  assert.equal(await (await fetch(url, { method: 'POST', body: 'junk' })).text(), 'junk');
});
