const OF: Readonly<Record<string, string>> = {
  fit: 'fit',
  plan: 'plan',
  file: 'file correction',
  follow: 'outlook',
  drift: 'drift',
  proof: 'sheet',
  correction: 'correction',
};

/** “fit, version 2” for `fit-2`: which way of working out a figure was in use then. */
export function versionWords(version: string): string {
  const [, name, number] = /^([a-z]+)-(\d+)$/.exec(version) ?? [];
  return name === undefined ? version : `${OF[name] ?? name}, version ${number}`;
}
