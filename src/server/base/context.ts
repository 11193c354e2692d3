import 'server-only';

import { cookies } from 'next/headers';
import { cache } from 'react';

import type { LengthUnit } from '@/core/units';
import { database } from '@/db/client';
import { shopZone } from '@/server/shop/zone';
import { writeDatesIn } from '@/clock/dates';

import { apiError } from './apiError';
import type { Actor, Deps } from './deps';
import { initialsSchema } from './shapes';

/** Where this application is reached, for QR codes: from its configuration, never from what a request says. */
export const ownAddress = (): string =>
  process.env.RED_PLUMB_ADDRESS?.replace(/\/$/, '') ?? `http://127.0.0.1:${process.env.PORT ?? 3000}`;

/** Deps of a request: the pool, the clock, and this application’s own address. */
export const requestDeps = (): Deps => ({ db: database(), now: () => new Date(), origin: ownAddress() });

export interface Preferences {
  readonly unit: LengthUnit;
  /** Null: as the system has it. */
  readonly theme: 'light' | 'dark' | null;
  /** Initials, or empty when nobody said who they are. */
  readonly who: string;
}

const THEMES = ['light', 'dark'] as const;

/** The shop's time zone, looked up once a request. */
const zoneOfShop = cache(async (): Promise<string> => (await shopZone(requestDeps())).zone);

/** What this browser remembers of its user. */
export async function remembered(): Promise<Preferences> {
  const jar = await cookies();
  const who = initialsSchema.safeParse(decoded(jar.get('who')?.value ?? ''));
  return {
    unit: jar.get('unit')?.value === 'in' ? 'in' : 'mm',
    theme: THEMES.find((name) => name === jar.get('bench')?.value) ?? null,
    who: who.success ? who.data : '',
  };
}

/** The same, for a page; whatever it writes from here on has the shop's days and hours. */
export async function preferences(): Promise<Preferences> {
  writeDatesIn(await zoneOfShop());
  return remembered();
}

function decoded(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    return '';
  }
}

/** Somebody wants something kept and nobody said who it is: the page asks, then tries again. */
export class NobodySaid extends Error {
  constructor() {
    super('no initials');
    this.name = 'NobodySaid';
  }
}

/** Who is at the machine, for the log. */
export async function requestActor(): Promise<Actor> {
  const { who } = await remembered();
  if (who === '') throw new NobodySaid();
  return who;
}

/** Written into the log where a script gave no initials. */
const A_SCRIPT = 'script';

export const scriptActor = async (): Promise<Actor> => (await remembered()).who || A_SCRIPT;

/** A person at a page says who it is, a script need not: the answer to one who did not, else null. */
export async function personMissing(request: Request): Promise<Response | null> {
  return request.headers.has('sec-fetch-site') && (await remembered()).who === ''
    ? apiError(403, 'no-initials', 'Say who you are: initials at the top of the page.')
    : null;
}
