/** What in a print recipe makes a scale error of our own, a sentence each. Common practice, no source. */
export function recipeCautions(recipe: {
  readonly borderless: boolean;
  readonly scalePercent: number;
}): string[] {
  const cautions: string[] = [];
  if (recipe.borderless)
    cautions.push(
      'Borderless printing usually enlarges the page by a percent or more: measure the check bars, or turn it off.',
    );
  if (Number.isFinite(recipe.scalePercent) && recipe.scalePercent !== 100)
    cautions.push(
      `The print is scaled to ${recipe.scalePercent} %: the cut file must be scaled alike, or set it back to 100 %.`,
    );
  return cautions;
}

/** Shares beyond which a check bar says that the driver scaled the print: half a millimetre's rule on 100 mm. */
const BAR_DOUBT = 0.003;

/** What the driver really did, from a check bar measured with a rule; null while it is within the rule's doubt. */
export function barVerdict(nominalMm: number, measuredMm: number): { readonly percent: number } | null {
  const share = measuredMm / nominalMm - 1;
  return Math.abs(share) <= BAR_DOUBT ? null : { percent: share * 100 };
}
