import type { Deps } from '@/server/base/deps';
import { csvOfLog, documentOfLog } from '../src/server/logbook/exportLog';

async function joined(chunks: AsyncIterable<string>): Promise<string> {
  let text = '';
  for await (const chunk of chunks) text += chunk;
  return text;
}

interface LoggedRun {
  readonly id: string;
  readonly checks: readonly { readonly replacedAt: string | null }[];
  readonly events: readonly { readonly kind: string }[];
}

/** The whole log as its JSON export gives it, read back. */
export const logDocument = async (deps: Deps) =>
  JSON.parse(await joined(documentOfLog(deps))) as {
    readonly format: string;
    readonly units: string;
    readonly readings: readonly {
      readonly setup: string;
      readonly station: string;
      readonly offsetMm: number;
      readonly enteredAt: string;
    }[];
    readonly events: readonly { readonly event: { readonly setupId: string; kind: string; note: string } }[];
    readonly runs: readonly LoggedRun[];
  };

export const logCsv = (deps: Deps): Promise<string> => joined(csvOfLog(deps));
