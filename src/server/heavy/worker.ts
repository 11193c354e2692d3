import { TASKS, type TaskName } from './tasks';

/** What a thread of the pool runs: one task at a time, by its name. */
export default function run({ name, input }: { readonly name: TaskName; readonly input: never }): unknown {
  return TASKS[name](input);
}
