export const EVENT_WORDS: Readonly<Record<string, string>> = {
  moved: 'moved',
  unplugged: 'unplugged',
  firmware: 'software or firmware changed',
  'new-blade': 'new blade',
  'media-change': 'media changed',
  'size-change': 'size or work area changed',
  'long-idle': 'long idle',
  feed: 'printer’s feed changed',
  other: 'something else',
};
