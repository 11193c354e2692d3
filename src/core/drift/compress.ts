import type { DriftNode } from './types';

const BINS = { wander: 10, creep: 3 };

/**
 * A posterior of fewer nodes with the same mean and variance of every prediction, for following a run. The tails are
 * lost, by nine tenths of a small chance at worst: planning asks all nodes.
 * Binned by wander, and by the creep's spread within each.
 */
export function compressNodes(nodes: readonly DriftNode[]): DriftNode[] {
  if (nodes.length <= BINS.wander * BINS.creep) return [...nodes];
  const byWander = equalShares(nodes, (n) => n.wanderMm2PerM, BINS.wander);
  return byWander.flatMap((bin) => equalShares(bin, (n) => n.creepVarMm2PerM2, BINS.creep).map(asOneNode));
}

/** Sorted and split into bins of about equal weight; empty ones are left out. */
function equalShares(
  nodes: readonly DriftNode[],
  of: (node: DriftNode) => number,
  count: number,
): DriftNode[][] {
  const total = nodes.reduce((sum, n) => sum + n.weight, 0);
  const bins: DriftNode[][] = Array.from({ length: count }, () => []);
  let before = 0;
  for (const node of [...nodes].sort((a, b) => of(a) - of(b))) {
    bins[Math.min(count - 1, Math.floor((count * (before + node.weight / 2)) / total))]!.push(node);
    before += node.weight;
  }
  return bins.filter((bin) => bin.length > 0);
}

/** All nodes as one that predicts the same mean and variance everywhere. */
export function asOneNode(nodes: readonly DriftNode[]): DriftNode {
  const weight = nodes.reduce((sum, n) => sum + n.weight, 0);
  const mean = (of: (n: DriftNode) => number): number =>
    nodes.reduce((sum, n) => sum + n.weight * of(n), 0) / weight;
  const creep = mean((n) => n.creepMmPerM);
  const bow = mean((n) => n.bowMmPerM2);
  return {
    weight,
    wanderMm2PerM: mean((n) => n.wanderMm2PerM),
    creepVarMm2PerM2: mean((n) => n.creepVarMm2PerM2),
    readingVarMm2: mean((n) => n.readingVarMm2),
    registrationVarMm2: mean((n) => n.registrationVarMm2),
    creepMmPerM: creep,
    bowMmPerM2: bow,
    creepVar: mean((n) => n.creepVar + (n.creepMmPerM - creep) ** 2),
    bowVar: mean((n) => n.bowVar + (n.bowMmPerM2 - bow) ** 2),
    creepBowCov: mean((n) => n.creepBowCov + (n.creepMmPerM - creep) * (n.bowMmPerM2 - bow)),
  };
}
