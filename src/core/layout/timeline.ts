/** How fast the work goes. */
export interface Speeds {
  /** Printed length per hour, mm. */
  readonly printMmPerHour: number;
  /** Along the cut line, mm per second. */
  readonly cutMmPerS: number;
  /** To load or move on, and to read the marks, per piece. */
  readonly registerS: number;
  /** Between print and cut: drying, laminating. */
  readonly waitS: number;
}

export interface Timeline {
  readonly printS: number;
  readonly waitS: number;
  readonly cutS: number;
  /** From the first print to the last cut, the next piece printing while the last one is cut. */
  readonly totalS: number;
}

/**
 * Time for pieces that are printed one after the other and cut one after the other.
 * With one machine for both nothing overlaps.
 */
export function timelineOf(
  pieces: readonly { readonly lengthMm: number; readonly cutMm: number }[],
  speeds: Speeds,
  oneMachine: boolean,
): Timeline {
  const print = pieces.map((p) => (3600 * p.lengthMm) / speeds.printMmPerHour);
  const cut = pieces.map((p) => speeds.registerS + p.cutMm / speeds.cutMmPerS);
  const sum = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0);
  let printed = 0;
  let done = 0;
  pieces.forEach((_, i) => {
    printed = (oneMachine ? Math.max(printed, done) : printed) + print[i]!;
    done = Math.max(done, printed + speeds.waitS) + cut[i]!;
  });
  return { printS: sum(print), waitS: speeds.waitS, cutS: sum(cut), totalS: done };
}
