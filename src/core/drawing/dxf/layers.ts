import type { DrawnPath, Layer, NotCut } from '..';

import { colourOfIndex } from './colours';
import { type DxfRecord, number, text } from './pairs';

/** A layer of this name is for the screen only, whatever it says (DXF reference; memory). */
export const NEVER_PLOTTED = 'DEFPOINTS';

/** The layers of a DXF file, and whether what is drawn on them is seen. Those in `cutAll` are, whatever they say. */
export class Layers {
  private readonly known = new Map<string, Layer>();
  private byCapitals: Map<string, Layer> | null = null;

  constructor(private readonly cutAll: ReadonlySet<string>) {}

  /** An entry of the table: off with its colour negative, frozen by bit 1 of 70, not plotted by 290. */
  take(record: DxfRecord): void {
    const name = text(record, 2) ?? '0';
    const colour = number(record, 62, 7);
    const cut = this.cutAll.has(name);
    this.known.set(name, {
      name,
      colour: colourOfIndex(Math.abs(colour)),
      off: !cut && colour < 0,
      frozen: !cut && (number(record, 70, 0) & 1) === 1,
      unplotted: !cut && (number(record, 290, 1) === 0 || this.isForTheScreen(name)),
    });
  }

  /** All of them, those of no table too that something is drawn on. */
  all(paths: readonly DrawnPath[]): Layer[] {
    for (const { layer: name } of paths)
      if (!this.known.has(name))
        this.known.set(name, { name, colour: null, unplotted: this.isForTheScreen(name) });
    return [...this.known.values()];
  }

  /** Names of layers are the same in capitals and small letters; the table’s entry of another case counts. */
  of(name: string): Partial<Layer> {
    const known = this.known.get(name);
    if (known) return known;
    this.byCapitals ??= new Map([...this.known.values()].map((l) => [l.name.toUpperCase(), l]));
    return this.byCapitals.get(name.toUpperCase()) ?? { unplotted: this.isForTheScreen(name) };
  }

  /** Whether the layer alone keeps what is drawn on it from being seen. */
  keepsBack(name: string): boolean {
    const { off, frozen, unplotted } = this.of(name);
    return Boolean(off || frozen || unplotted);
  }

  /** Why an entity is not seen; null when it is. `unseen` is why the copy is not that it belongs to. */
  notCut(entity: DxfRecord, layer: string, unseen: NotCut | null): NotCut | null {
    if (this.cutAll.has(layer)) return null;
    if (unseen !== null) return unseen;
    if (number(entity, 60, 0) === 1) return 'invisible';
    const { off, frozen, unplotted } = this.of(layer);
    return frozen ? 'layer-frozen' : off ? 'layer-off' : unplotted ? 'layer-not-plotted' : null;
  }

  /** A copy goes with the layers of what it copies; only a frozen layer, or its own switch, hides all of it. */
  copyNotCut(copy: DxfRecord, layer: string, unseen: NotCut | null): NotCut | null {
    if (unseen !== null || this.cutAll.has(layer)) return unseen;
    if (number(copy, 60, 0) === 1) return 'invisible';
    return this.of(layer).frozen ? 'layer-frozen' : null;
  }

  private isForTheScreen(name: string): boolean {
    return name.toUpperCase() === NEVER_PLOTTED && !this.cutAll.has(name);
  }
}
