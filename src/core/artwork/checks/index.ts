import { lineFindings } from './lineChecks';
import { printFindings } from './printChecks';
import type { CheckContext, CheckedLine, CheckedPrint, Finding, Page } from './types';

export {
  FINDING_CODES,
  type CheckContext,
  type CheckedLine,
  type CheckedPrint,
  type Finding,
  type FindingCode,
  type Page,
} from './types';

export const CHECK_VERSION = 'check-1';
/** So many findings of one code are told; the rest are like them. */
const MOST_OF_A_CODE = 20;

/** What will go wrong with a pair before it is printed, what spoils it first; empty for a good job. */
export function checkPair(
  lines: readonly CheckedLine[],
  cutPage: Page | null,
  print: CheckedPrint | null,
  context: CheckContext,
): Finding[] {
  const counts = new Map<string, number>();
  return [...printFindings(lines, cutPage, print, context), ...lineFindings(lines, context)]
    .filter(({ code }) => {
      const count = (counts.get(code) ?? 0) + 1;
      counts.set(code, count);
      return count <= MOST_OF_A_CODE;
    })
    .toSorted((a, b) => Number(a.severity === 'look') - Number(b.severity === 'look'));
}
