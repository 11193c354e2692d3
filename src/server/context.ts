import 'server-only';

import { cookies, headers } from 'next/headers';

import type { LengthUnit } from '@/core/units';
import { database } from '@/db/client';

import type { Actor, Deps } from './deps';
import { initialsSchema } from './schemas';

/** Deps of a request: the pool, the clock, and the address that the browser used. */
export async function requestDeps(): Promise<Deps> {
  const head = await headers();
  const host = head.get('host') ?? '127.0.0.1:3000';
  const scheme = head.get('x-forwarded-proto') ?? 'http';
  return { db: database(), now: () => new Date(), origin: `${scheme}://${host}` };
}

export interface Preferences {
  readonly unit: LengthUnit;
  readonly theme: 'light' | 'dark';
  /** Initials, or empty when nobody said who they are. */
  readonly who: string;
}

/** What this browser remembers of its user. */
export async function preferences(): Promise<Preferences> {
  const jar = await cookies();
  const who = initialsSchema.safeParse(jar.get('who')?.value ?? '');
  return {
    unit: jar.get('unit')?.value === 'in' ? 'in' : 'mm',
    theme: jar.get('bench')?.value === 'dark' ? 'dark' : 'light',
    who: who.success ? who.data : '',
  };
}

/** Written into the log where nobody gave initials. */
const NOBODY = '–';

export const requestActor = async (): Promise<Actor> => (await preferences()).who || NOBODY;
