/* Files that were dropped on one page while the page that takes them is on its way. */

let held: readonly File[] = [];

export function holdFiles(files: readonly File[]): void {
  held = files;
}

/** What was held, once. */
export function takeHeldFiles(): readonly File[] {
  const taken = held;
  held = [];
  return taken;
}

/** The desk that corrects them, for a setup when one is named. */
export const deskPath = (setupId: string | null): string =>
  setupId ? `/correct?setup=${setupId}` : '/correct';
