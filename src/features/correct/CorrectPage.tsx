import Link from 'next/link';
import Button from 'react-bootstrap/Button';
import FormControl from 'react-bootstrap/FormControl';
import { z } from 'zod';

import { capital } from '@/core/units';
import { Page } from '@/features/frame/Page';
import { preferences, requestDeps } from '@/server/base/context';
import { FILES_A_PAGE, lastUsedSetups, listFiles, type FileRow } from '@/server/files/listFiles';
import { listSetups } from '@/server/setups/repository';
import { dateText } from '@/clock/dates';
import { Pager } from '@/ui/Pager';
import { DataTable } from '@/ui/tables/DataTable';

import { deskSetup } from './correct.view';
import { CorrectDesk } from './CorrectDesk';

const asked = z.object({
  setup: z.uuid().nullable().catch(null),
  find: z.string().max(80).catch(''),
  page: z.coerce.number().int().min(1).max(100_000).catch(1),
});

/** Cut files, any day: given, they come back corrected by what stands for their setup; those made before are below. */
export async function CorrectPage({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}) {
  const { setup: named, find, page } = asked.parse(await searchParams);
  const { unit } = await preferences();
  const deps = requestDeps();
  const [all, used] = await Promise.all([listSetups(deps), lastUsedSetups(deps)]);
  const place = (id: string): number => (used.includes(id) ? used.indexOf(id) : used.length);
  const setups = [...all].sort((a, b) => place(a.id) - place(b.id)).map((s) => deskSetup(s, unit));
  const chosen = setups.find((s) => s.id === named) ?? setups[0] ?? null;
  const { rows, total } = await listFiles(deps, { find, setupId: null, page });
  return (
    <Page title="Cut files" context={<strong>Cut files</strong>}>
      <h1 className="answer">
        {chosen
          ? chosen.carries === null
            ? `${capital(chosen.media)} needs no change in its cut files.`
            : `Give cut files for ${chosen.media}: they come back corrected.`
          : 'Nothing is on the bench: add a rig and calibrate it, then its cut files come back corrected here.'}
      </h1>
      {chosen && <CorrectDesk setups={setups} chosen={chosen.id} unit={unit} />}
      <Made rows={rows} total={total} find={find} page={page} />
    </Page>
  );
}

const CAME_WORDS = {
  page: 'dropped here',
  address: 'by address',
  script: 'by script',
  folder: 'by folder',
} as const;

/** Every file that was ever corrected, found again by name. */
function Made({
  rows,
  total,
  find,
  page,
}: {
  rows: readonly FileRow[];
  total: number;
  find: string;
  page: number;
}) {
  if (total === 0 && find === '') return null;
  const pages = Math.ceil(total / FILES_A_PAGE);
  return (
    <section className="panel mt-3">
      <div className="d-flex gap-3 align-items-center flex-wrap mb-2">
        <h2 className="mb-0">Made before</h2>
        <form role="search" className="d-flex gap-2">
          <FormControl type="search" name="find" defaultValue={find} aria-label="Find a file by its name" />
          <Button type="submit" variant="plain">
            Find
          </Button>
        </form>
      </div>
      {rows.length === 0 ? (
        <p className="mb-0">
          No file of that name. <Link href="/correct">Show all</Link>
        </p>
      ) : (
        <DataTable
          label="Corrected files"
          rows={rows}
          keyOf={(f) => f.id}
          columns={[
            ['file', (f) => <a href={`/api/corrected-files/${f.id}`}>{f.fileName}</a>, 'file-name'],
            [
              'for',
              (f) => (
                <>
                  <Link href={`/setups/${f.setupId}`}>{f.media}</Link>
                  <br />
                  <span className="small-print">{f.rig}</span>
                </>
              ),
            ],
            [
              'what was done',
              (f) => (
                <>
                  {f.changed ? 'corrected' : 'given back as it came'}
                  {f.ofSession && ' in a calibration'}
                </>
              ),
            ],
            [
              'when',
              (f) => (
                <>
                  <span className="text-nowrap">{dateText(f.at, 'd MMM yyyy HH:mm')}</span>
                  <br />
                  <span className="small-print">
                    {f.by}, {CAME_WORDS[f.cameBy]}
                  </span>
                </>
              ),
            ],
          ]}
        />
      )}
      <Pager
        page={page}
        pages={pages}
        href={(p) => `/correct?${new URLSearchParams({ ...(find ? { find } : {}), page: String(p) })}`}
      />
    </section>
  );
}
