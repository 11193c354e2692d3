/** A result that may be a refusal: expected failures are values, thrown errors are bugs. */
export type Outcome<T, R> =
  { readonly ok: true; readonly value: T } | { readonly ok: false; readonly refusal: R };

export const accept = <T>(value: T): { readonly ok: true; readonly value: T } => ({ ok: true, value });

export const refuse = <R>(refusal: R): { readonly ok: false; readonly refusal: R } => ({
  ok: false,
  refusal,
});
