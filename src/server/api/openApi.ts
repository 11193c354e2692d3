import type { z } from 'zod';

import { RIG_CHARTS } from '@/core/control';
import { TERM_NAMES } from '@/core/fit';

import { formPaths } from './openApiForms';
import { away, error, input, json } from './openApiPieces';
import { offsetRequestSchema, twoSidesRequestSchema } from './scriptArtwork';
import { controlRequestSchema } from './scriptControl';
import { diagnoseRequestSchema } from './scriptDiagnose';
import { fitRequestSchema } from './scriptFit';
import { driftRequestSchema, nextRequestSchema } from './scriptRoll';
import { planRequestSchema } from '@/core/layout/planShape';
import { SCRIPT_WAYS } from '@/core/readings/registry';
import { CUT_FORMATS } from '@/core/drawing/formats';
import { registrationRequestSchema } from './scriptRegistration';
import { sheetRequestSchema } from './scriptSheet';
import { settingsRequestSchema } from './scriptSettings';

/* GET /api/openapi.json: made from the schemas that the routes check with, so that the two cannot differ. */

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
// eslint-disable-next-line max-lines-per-function -- a list of addresses, no steps
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
    ...Object.fromEntries(
      SCRIPT_WAYS.map(({ name, script }) => [
        `/api/readings/${name}`,
        post(script.summary, script.request, script.result),
      ]),
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
    ...formPaths(),
    '/api/setups': {
      get: {
        summary: 'The setups on the bench and what stands for each',
        responses: { 200: json('{"setups":[…]}'), 503: away },
      },
    },
    '/api/setups/{id}/chart': {
      get: {
        summary: 'A control chart of every load of a setup, as CSV',
        parameters: [
          path('id', { type: 'string', format: 'uuid' }),
          query('chart', { type: 'string', enum: [...RIG_CHARTS], default: 'averages' }),
          query('term', { type: 'string', enum: [...TERM_NAMES], default: 'shiftXMm' }),
        ],
        responses: {
          200: { description: 'A load a row, oldest first.' },
          400: error,
          404: error,
          422: error,
          503: away,
        },
      },
    },
    '/api/sheet-jobs/{id}/{file}': {
      get: {
        summary: 'The print file or a cut file of a sheet job',
        parameters: [
          path('id', { type: 'string', format: 'uuid' }),
          path('file', {
            type: 'string',
            enum: ['art.png', 'picture.png', 'print.pdf', ...CUT_FORMATS.map((f) => `cut.${f}`)],
          }),
          query('piece', { type: 'string', pattern: '^[A-Z]$' }),
          query('sheet', { type: 'integer', minimum: 1, default: 1 }),
          query('revision', { type: 'integer', minimum: 1 }),
        ],
        responses: { 200: { description: 'The file.' }, 400: error, 404: error, 409: error, 503: away },
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
    '/api/stamp': {
      get: {
        summary: 'Changes when anything is kept in the shop',
        responses: { 200: json('{"stamp":1764576000000}'), 503: away },
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
