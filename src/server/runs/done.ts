import type { Outcome } from '@/core/outcome';
import type { UseCaseRefusal } from '@/server/base/deps';

/* The walk of a run, step by step: plan, release, section by section, close. */

export type Done<T = null> = Promise<Outcome<T, UseCaseRefusal>>;
