/**
 * One of a kind in this process. The framework bundles pages, actions and addresses apart, each with modules of its own:
 * what a module keeps for itself there would be several of.
 */
export function onePerProcess<T>(name: string, make: () => T): T {
  const kept = globalThis as unknown as Record<symbol, T | undefined>;
  const key = Symbol.for(`red-plumb ${name}`);
  return (kept[key] ??= make());
}
