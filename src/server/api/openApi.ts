import { z } from 'zod';

import { CUT_FORMATS, FILE_LIMIT_BYTES } from '@/core/formats/file';

import { offsetRequestSchema, traceOptionsSchema, twoSidesRequestSchema } from './scriptArtwork';
import { checkContextSchema } from './scriptCheck';
import { controlRequestSchema } from './scriptControl';
import { diagnoseRequestSchema } from './scriptDiagnose';
import { fitRequestSchema } from './scriptFit';
import { driftRequestSchema, nextRequestSchema } from './scriptRoll';
import { planRequestSchema } from '@/shapes/plan';
import {
  gapsRequestSchema,
  lengthsRequestSchema,
  registrationRequestSchema,
  ringsRequestSchema,
  tableRequestSchema,
} from './scriptSchools';
import { sheetRequestSchema } from './scriptSheet';
import { settingsRequestSchema } from './scriptSettings';

/* GET /api/openapi.json: made from the schemas that the routes check with, so that the two cannot differ. */

const input = (schema: z.ZodType) => z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any' });

const error = {
  description: 'What is wrong and what would be right.',
  content: {
    'application/json': {
      schema: {
        type: 'object',
        required: ['error'],
        properties: {
          error: {
            type: 'object',
            required: ['code', 'message'],
            properties: {
              code: { type: 'string' },
              message: { type: 'string' },
              field: { type: 'string' },
            },
          },
        },
      },
    },
  },
};

const away = { description: 'The database does not answer; try again in a moment.' };
const json = (description: string) => ({
  description,
  content: { 'application/json': { schema: { type: 'object' } } },
});
const path = (name: string, schema: object) => ({ name, in: 'path', required: true, schema });
const query = (name: string, schema: object) => ({ name, in: 'query', schema });

const post = (summary: string, schema: z.ZodType, result: string) => ({
  post: {
    summary,
    requestBody: { required: true, content: { 'application/json': { schema: input(schema) } } },
    responses: { 200: json(result), 400: error, 413: error, 503: away },
  },
});

/** The script interface as an OpenAPI 3.1 document. */
export const openApiDocument = () => ({
  openapi: '3.1.0',
  info: {
    title: 'Red Plumb',
    version: '1',
    description:
      'Lengths in mm, angles in radians. Sheet frame: x to the right, y along the feed, seen from the printed side.',
  },
  paths: {
    '/api/fit': post(
      'Fits the model ladder to readings',
      fitRequestSchema,
      'Every model asked for, fitted or refused with its reason; which one explains; nested F tests.',
    ),
    '/api/settings': post(
      'New values for a machine’s settings',
      settingsRequestSchema,
      'What to type, what each change does, and what is left over.',
    ),
    '/api/plan/roll': post(
      'Plans a run on a roll',
      planRequestSchema,
      'Columns, rows and sections, and each way to register the run with what is to be expected of it.',
    ),
    '/api/drift': post(
      'Drift from readings along runs',
      driftRequestSchema,
      'Creep, bow, wander, reading variance and slips on each axis, with their intervals.',
    ),
    '/api/run/next': post(
      'The next section of a run',
      nextRequestSchema,
      'Where its cut is expected to land, what the cut file has to undo, slips so far, go or stop.',
    ),
    '/api/readings/rings': post(
      'Stations from rows of rings with an even border',
      ringsRequestSchema,
      'Stations for /api/fit, and what should be looked at again.',
    ),
    '/api/readings/gaps': post(
      'Stations from gaps round a shape',
      gapsRequestSchema,
      'Stations for /api/fit with size errors, and what should be looked at again.',
    ),
    '/api/readings/table': post(
      'Stations from a table',
      tableRequestSchema,
      'Stations for /api/fit, and the rows that were left out.',
    ),
    '/api/readings/lengths': post(
      'Scales and lean from measured lengths',
      lengthsRequestSchema,
      'Scales, lean, their uncertainties, and which length to measure next.',
    ),
    '/api/registration': post(
      'Where a print lies, from where the tool was driven over its marks',
      registrationRequestSchema,
      'The map from the file to the sheet under the tool, residuals, how far the print moved, warnings.',
    ),
    '/api/diagnose': post(
      'What kind of fault sheets show',
      diagnoseRequestSchema,
      'Kinds with their probability, evidence and next check, most probable first.',
    ),
    '/api/control': post(
      'A control chart of values in time order',
      controlRequestSchema,
      'Centre, sigma, limits, statistic and the indices that signal.',
    ),
    '/api/offset': post(
      'Closed lines at a distance from others',
      offsetRequestSchema,
      'New lines with area, and whether each is a hole.',
    ),
    '/api/plan/sheet': post(
      'Pieces on sheets',
      sheetRequestSchema,
      'Placements and marks by sheet, pieces on one, waste, and what to look at.',
    ),
    '/api/two-sides': post(
      'A sheet printed on both sides',
      twoSidesRequestSchema,
      'Which edge leads, where a place of the front lies in the back’s frame, how its art is turned.',
    ),
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
    '/api/setups': {
      get: {
        summary: 'The setups on the bench and what stands for each',
        responses: { 200: json('{"setups":[…]}'), 503: away },
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
    '/api/proof-sheets/{number}.{format}': {
      get: {
        summary: 'A proof sheet to print or to cut',
        parameters: [
          path('number', { type: 'string', pattern: '^\\d{1,9}$' }),
          path('format', { type: 'string', enum: ['pdf', ...CUT_FORMATS] }),
          query('layer', { type: 'string', enum: ['print', 'cut'], default: 'print' }),
          query('set', { type: 'string', enum: ['1', '2'], default: '1' }),
          query('pass', { type: 'string', format: 'uuid' }),
        ],
        responses: { 200: { description: 'The file.' }, 400: error, 404: error, 503: away },
      },
    },
    '/api/logbook/{format}': {
      get: {
        summary: 'The log: a reading a row, or everything',
        parameters: [path('format', { type: 'string', enum: ['csv', 'json'] })],
        responses: { 200: { description: 'The log.' }, 404: error, 503: away },
      },
    },
    '/api/runs/{id}/archive': {
      get: {
        summary: 'Every cut file of a run in one ZIP archive',
        parameters: [path('id', { type: 'string', format: 'uuid' })],
        responses: {
          200: { description: 'The archive.', content: { 'application/zip': {} } },
          404: error,
          409: error,
          503: away,
        },
      },
    },
    '/api/runs/{id}/files/{file}': {
      get: {
        summary: 'A section’s cut file as it was made',
        parameters: [
          path('id', { type: 'string', format: 'uuid' }),
          path('file', { type: 'string', format: 'uuid' }),
        ],
        responses: { 200: { description: 'The file.' }, 404: error, 503: away },
      },
    },
    '/api/runs/{id}/stamp': {
      get: {
        summary: 'Changes when somebody does something on the run',
        parameters: [path('id', { type: 'string', format: 'uuid' })],
        responses: { 200: json('{"stamp":"…"}'), 404: error, 503: away },
      },
    },
    '/api/corrected-files/{id}': {
      get: {
        summary: 'A corrected file from the log',
        parameters: [path('id', { type: 'string', format: 'uuid' })],
        responses: { 200: { description: 'The file.' }, 404: error, 503: away },
      },
    },
    '/api/health': { get: { summary: 'Whether it answers', responses: { 200: json('{"ok":true}') } } },
  },
});
