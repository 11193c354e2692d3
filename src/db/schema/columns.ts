import { timestamp, uuid } from 'drizzle-orm/pg-core';

export const id = () => uuid().primaryKey().defaultRandom();

export const at = (name: string) => timestamp(name, { withTimezone: true, mode: 'date' });
