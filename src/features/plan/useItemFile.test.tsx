/** @jest-environment jsdom */
import '@test/dom';
import { act, renderHook } from '@testing-library/react';

import type { ItemFile } from './planFields';
import { useItemFile } from './useItemFile';

const CARRIED: ItemFile = { name: 'the item of R004', content: '<svg/>', cutLengthMm: 590 };
const pick = (text: string, name = 'tag.svg') =>
  Object.assign(new File([text], name), { text: () => Promise.resolve(text) });
const SQUARE =
  '<svg xmlns="http://www.w3.org/2000/svg" width="30mm" height="40mm" viewBox="0 0 30 40"><path d="M5 5H25V35H5Z"/></svg>';

test('the file of the run before stays until another is picked, and comes back with a fresh form', async () => {
  const sizes = jest.fn();
  const { result } = renderHook(() => useItemFile(CARRIED, 'mm', sizes));
  expect(result.current.file).toBe(CARRIED);
  expect(result.current.says).toBe('Cut along the item of R004, as it was.');
  await act(() => result.current.take(pick(SQUARE)));
  expect(result.current.file).toMatchObject({
    name: 'tag.svg',
    content: SQUARE,
    cutLengthMm: expect.closeTo(100, 9) as number,
  });
  expect(sizes).toHaveBeenCalledWith({ itemWidth: '20', itemHeight: '30' });
  act(() => result.current.drop());
  expect(result.current).toMatchObject({ file: null, says: '' });
  act(() => result.current.startAfresh());
  expect(result.current.file).toBe(CARRIED);
});

test('a file that cannot be read is told by its name; what was there before stays', async () => {
  const sizes = jest.fn();
  const { result } = renderHook(() => useItemFile(CARRIED, 'mm', sizes));
  await act(() => result.current.take(pick('hello', 'notes.svg')));
  expect(result.current.says).toMatch(/^notes\.svg: .+\.$/);
  expect(result.current.file).toBe(CARRIED);
  expect(sizes).not.toHaveBeenCalled();
});
