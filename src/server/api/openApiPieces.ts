import { z } from 'zod';

/* Pieces of the OpenAPI document. */

export const input = (schema: z.ZodType) => z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any' });

export const error = {
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

export const away = { description: 'The database does not answer; try again in a moment.' };
export const json = (description: string) => ({
  description,
  content: { 'application/json': { schema: { type: 'object' } } },
});
