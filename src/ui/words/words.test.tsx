/** @jest-environment jsdom */
import '@test/dom';
import { readFileSync } from 'node:fs';

import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';

import { Word } from './Word';
import { WORDS } from './words';

test('the glossary on paper says what the screen says', () => {
  const paper = readFileSync('docs/words.md', 'utf8').replace(/\s+/g, ' ');
  for (const [word, meaning] of Object.entries(WORDS)) expect(paper).toContain(`**${word}**: ${meaning}`);
});

test('a word explains itself on tap and by keyboard, and Escape puts it away', async () => {
  const user = userEvent.setup();
  render(
    <p>
      Read the <Word of="comb">combs</Word>.
    </p>,
  );
  const word = screen.getByRole('button', { name: 'combs' });
  expect(screen.queryByRole('tooltip')).toBeNull();
  await user.click(word);
  expect(await screen.findByRole('tooltip')).toHaveTextContent(/its label is the offset/);
  expect(word).toHaveAccessibleDescription(/its label is the offset/);
  await user.keyboard('{Escape}');
  expect(screen.queryByRole('tooltip')).toBeNull();
  await user.tab();
  await user.tab({ shift: true });
  expect(screen.getByRole('tooltip')).toBeVisible();
});
