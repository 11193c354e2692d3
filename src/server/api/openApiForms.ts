import { FILE_LIMIT_BYTES } from '@/core/drawing/file';

import { away, error, input, json } from './openApiPieces';
import { traceOptionsSchema } from './scriptArtwork';
import { newJobSchema, newPieceSchema } from '@/server/sheetJobs/shapes';
import { FORMAT_WORDS, CUT_FORMATS } from '@/core/drawing/formats';
import { checkContextSchema } from './scriptCheck';

const file = (description: string) => ({ type: 'string', format: 'binary', description });
const ARTWORK = 'PNG, JPEG, TIFF, WebP, SVG or a PDF of one page.';
const choice = (values: readonly string[], description: string) => ({
  type: 'string',
  enum: [...values],
  description,
});

/** An address that takes a form with files in it. */
const form = (
  summary: string,
  required: readonly string[],
  properties: object,
  ok: object,
  more: object = {},
) => ({
  post: {
    summary,
    requestBody: {
      required: true,
      content: { 'multipart/form-data': { schema: { type: 'object', required, properties } } },
    },
    responses: { 200: ok, 400: error, ...more, 413: error, 422: error, 503: away },
  },
});

/** The addresses that take artwork. */
const artPaths = () => ({
  '/api/picture': form(
    'Artwork as the picture that a job keeps of it',
    ['image'],
    { image: file(ARTWORK) },
    { description: 'PNG, clear where nothing prints.' },
  ),
  '/api/sheet-jobs/{id}/pieces': form(
    'Artwork more for a draft of a sheet job',
    ['image', 'piece'],
    {
      image: file(ARTWORK),
      piece: input(newPieceSchema),
      version: { type: 'integer', minimum: 1 },
      request: { type: 'string', format: 'uuid' },
    },
    json('201: {"piece"}.'),
    { 404: error, 409: error },
  ),
  '/api/sheet-jobs': form(
    'A draft of a sheet job from artwork',
    ['image', 'job'],
    {
      image: file(ARTWORK),
      job: input(newJobSchema),
      request: { type: 'string', format: 'uuid' },
    },
    json('201: {"id"}.'),
  ),
});

/** The addresses that take files: multipart forms. */
export const formPaths = () => ({
  ...artPaths(),
  '/api/check': form(
    'What will go wrong with a pair of print and cut',
    ['cut', 'context'],
    {
      cut: file(`${FORMAT_WORDS}.`),
      print: file('PDF, SVG or a picture.'),
      context: input(checkContextSchema),
    },
    json('{"findings":[…]}, what spoils the job first; empty for a good one.'),
  ),
  '/api/trace': form(
    'The outlines of what a picture shows',
    ['image'],
    { image: file('PNG, JPEG, TIFF or WebP.'), options: input(traceOptionsSchema) },
    json('Size, what told the background, and closed lines, the largest first.'),
  ),
  '/api/correct': form(
    'Corrects a cut file',
    ['file'],
    {
      file: file(`${FORMAT_WORDS}, at most ${FILE_LIMIT_BYTES / 1048576} MB.`),
      map: {
        type: 'string',
        description:
          'T as JSON: {"a11","a12","a21","a22","tx","ty"} or {"h11" … "h32"}. This, “correction” or “setup”.',
      },
      correction: { type: 'string', format: 'uuid', description: 'Id of a stored correction.' },
      setup: {
        type: 'string',
        format: 'uuid',
        description: 'Id of a setup: its standing correction goes into the file.',
      },
      frame: {
        ...choice(
          ['setup', 'sheet'],
          'Of a setup: the file lies as the rig’s description says, or its own axes are the sheet’s.',
        ),
        default: 'setup',
      },
      again: {
        ...choice(['true', 'false'], 'Of a setup: correct a file that came out of here corrected once more.'),
        default: 'false',
      },
      cutAll: {
        type: 'array',
        items: { type: 'string' },
        description: 'Layers of a DXF that are cut although they are off, frozen, not plotted or invisible.',
      },
      rest: choice(
        ['true', 'false'],
        'Of a stored correction: only what the settings leave over, or all of it.',
      ),
      to: choice(CUT_FORMATS, 'Written as; else as it was.'),
      answer: choice(['file', 'whole'], 'The file alone, or JSON with “content”, “report” and “outlines”.'),
    },
    {
      description: 'The corrected file.',
      headers: {
        'X-Red-Plumb-Report': {
          description: 'Counts, totals and notes, as JSON.',
          schema: { type: 'string' },
        },
      },
    },
    { 404: error, 409: error },
  ),
});
