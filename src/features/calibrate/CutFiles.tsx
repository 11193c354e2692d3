import type { Pass } from '@/server/sessions/session';

/** Where a set's cut file is, as its pass was or will be cut. */
export const cutFile = ({ id, set, sheet }: Pass, format: string): string =>
  `/api/proof-sheets/${sheet.label}.${format}?layer=cut&set=${set}&pass=${id}`;

/** The cut files of a set, in every format that its rig takes. */
export function CutFiles({ pass, formats }: { pass: Pass; formats: readonly string[] }) {
  return formats.map((format) => (
    <a key={format} className="btn btn-plain" href={cutFile(pass, format)} download>
      {format.toUpperCase()} to cut{pass.fileTransform ? ', corrected' : ''}
    </a>
  ));
}
