import QRCode from 'qrcode';

import type { JobLabel } from '@/core/sheetJob';

import type { SheetJob } from './job';

/** Number, name, date and code as they stand on the print; a draft says that it is one. */
export function labelOf(job: SheetJob): JobLabel {
  const code = QRCode.create(job.frozenAs?.address ?? job.label, { errorCorrectionLevel: 'M' }).modules;
  return {
    number: job.frozenAs ? job.label : `${job.label} DRAFT`,
    name: job.name,
    date: job.frozenAs?.madeOn ?? 'not frozen',
    qr: Array.from({ length: code.size }, (_, r) =>
      Array.from({ length: code.size }, (_, c) => Boolean(code.get(r, c))),
    ),
  };
}
