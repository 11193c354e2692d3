/** What a school of reading says of a place: the offset of the cut, and how sure; an axis that was not read is null. */
export interface StationReading {
  readonly id: string;
  readonly x: number;
  readonly y: number;
  readonly dx: number | null;
  readonly dy: number | null;
  /** The larger of the two, where both were read. */
  readonly u: number;
  readonly ux: number | null;
  readonly uy: number | null;
}

/** Something about a reading that a person should look at again. */
export interface ReadingDoubt {
  readonly station: string;
  readonly code: string;
  readonly message: string;
}

/** Everything a school yields: its stations go to the fit as they are. */
export interface SchoolReadings<S extends StationReading = StationReading> {
  readonly stations: readonly S[];
  readonly doubts: readonly ReadingDoubt[];
}

/** The station of two axes' offsets; null when neither was read. */
export function stationOf(
  place: { readonly id: string; readonly x: number; readonly y: number },
  across: { readonly mm: number; readonly u: number } | null,
  along: { readonly mm: number; readonly u: number } | null,
): StationReading | null {
  if (!across && !along) return null;
  return {
    id: place.id,
    x: place.x,
    y: place.y,
    dx: across?.mm ?? null,
    dy: along?.mm ?? null,
    u: Math.max(across?.u ?? 0, along?.u ?? 0),
    ux: across?.u ?? null,
    uy: along?.u ?? null,
  };
}
