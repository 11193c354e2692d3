import { CUT_FORMATS, FILE_LIMIT_BYTES } from '@/core/formats/file';

import { away, error, input, json } from './openApiPieces';
import { traceOptionsSchema } from './scriptArtwork';
import { checkContextSchema } from './scriptCheck';

/** The addresses that take files: multipart forms. */
export const formPaths = () => ({
  '/api/check': {
    post: {
      summary: 'What will go wrong with a pair of print and cut',
      requestBody: {
        required: true,
        content: {
          'multipart/form-data': {
            schema: {
              type: 'object',
              required: ['cut', 'context'],
              properties: {
                cut: { type: 'string', format: 'binary', description: 'SVG, DXF or HPGL.' },
                print: { type: 'string', format: 'binary', description: 'PDF, SVG or a picture.' },
                context: input(checkContextSchema),
              },
            },
          },
        },
      },
      responses: {
        200: json('{"findings":[…]}, what spoils the job first; empty for a good one.'),
        400: error,
        413: error,
        422: error,
        503: away,
      },
    },
  },
  '/api/trace': {
    post: {
      summary: 'The outlines of what a picture shows',
      requestBody: {
        required: true,
        content: {
          'multipart/form-data': {
            schema: {
              type: 'object',
              required: ['image'],
              properties: {
                image: { type: 'string', format: 'binary', description: 'PNG, JPEG, TIFF or WebP.' },
                options: input(traceOptionsSchema),
              },
            },
          },
        },
      },
      responses: {
        200: json('Size, what told the background, and closed lines, the largest first.'),
        400: error,
        413: error,
        422: error,
        503: away,
      },
    },
  },
  '/api/correct': {
    post: {
      summary: 'Corrects a cut file',
      requestBody: {
        required: true,
        content: {
          'multipart/form-data': {
            schema: {
              type: 'object',
              required: ['file'],
              properties: {
                file: {
                  type: 'string',
                  format: 'binary',
                  description: `SVG, DXF or HPGL, at most ${FILE_LIMIT_BYTES / 1048576} MB.`,
                },
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
                  type: 'string',
                  enum: ['setup', 'sheet'],
                  default: 'setup',
                  description:
                    'Of a setup: the file lies as the rig’s description says, or its own axes are the sheet’s.',
                },
                again: {
                  type: 'string',
                  enum: ['true', 'false'],
                  default: 'false',
                  description: 'Of a setup: correct a file that came out of here corrected once more.',
                },
                rest: {
                  type: 'string',
                  enum: ['true', 'false'],
                  description: 'Of a stored correction: only what the settings leave over, or all of it.',
                },
                to: { type: 'string', enum: [...CUT_FORMATS], description: 'Written as; else as it was.' },
                answer: {
                  type: 'string',
                  enum: ['file', 'whole'],
                  description: 'The file alone, or JSON with “content”, “report” and “outlines”.',
                },
              },
            },
          },
        },
      },
      responses: {
        200: {
          description: 'The corrected file.',
          headers: {
            'X-Red-Plumb-Report': {
              description: 'Counts, totals and notes, as JSON.',
              schema: { type: 'string' },
            },
          },
        },
        400: error,
        404: error,
        409: error,
        413: error,
        422: error,
        503: away,
      },
    },
  },
});
