interface ToolSetup {
  readonly id: string;
  readonly mediaId: string;
  readonly sheetWidthMm: number;
  readonly sheetHeightMm: number;
  readonly tool: { readonly id: string; readonly name: string } | null;
}

/** Setups of the same medium and size with another tool that nobody proved yet: a job with both waits for them. */
export const unprovedTools = (
  setup: ToolSetup,
  others: readonly { readonly setup: ToolSetup; readonly proved: boolean }[],
): string[] =>
  others
    .filter(
      (o) =>
        o.setup.id !== setup.id &&
        o.setup.mediaId === setup.mediaId &&
        o.setup.sheetWidthMm === setup.sheetWidthMm &&
        o.setup.sheetHeightMm === setup.sheetHeightMm &&
        o.setup.tool?.id !== setup.tool?.id &&
        !o.proved,
    )
    .map(
      (o) =>
        `With ${o.setup.tool?.name ?? 'the other tool'} it is not proved: a job that uses both tools waits for that.`,
    );
