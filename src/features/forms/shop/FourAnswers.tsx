'use client';

import FormSelect from 'react-bootstrap/FormSelect';
import type { FieldPath, UseFormReturn } from 'react-hook-form';
import { useState, type ReactNode } from 'react';

import { fieldLength, type LengthUnit } from '@/core/units';
import { PAPERS } from '@/ui/words/sizeWords';

import { errorAt, Field } from './ShopField';
import { choosePaper } from './shopFields';
import type { ShopFields } from './shopTypes';
import { TILE_PICTURES, type TilePicture } from './TilePictures';

/* The first rig: four questions answered by a tap or a word, and marks where another machine cuts. */

interface Tile<V extends string> {
  readonly value: V;
  readonly words: string;
  readonly picture: TilePicture;
}

const UNKNOWN = { value: 'unknown', words: 'I do not know', picture: 'unknown' } as const;

const PRINTS = [
  { value: 'desk', words: 'desk printer', picture: 'desk' },
  { value: 'roll', words: 'roll printer', picture: 'rollPrinter' },
  { value: 'flat', words: 'flat table', picture: 'flat' },
  UNKNOWN,
] as const satisfies readonly Tile<string>[];
const CUTS = [
  { value: 'same', words: 'the same machine', picture: 'same' },
  { value: 'other', words: 'another machine', picture: 'other' },
  UNKNOWN,
] as const satisfies readonly Tile<string>[];
const COMES = [
  { value: 'sheets', words: 'sheets', picture: 'sheets' },
  { value: 'roll', words: 'roll', picture: 'roll' },
  UNKNOWN,
] as const satisfies readonly Tile<string>[];
const MEDIA = [
  { value: 'paper', words: 'paper, card', picture: 'paper' },
  { value: 'film', words: 'film, label', picture: 'film' },
  { value: 'transfer', words: 'transfer', picture: 'transfer' },
  UNKNOWN,
] as const satisfies readonly Tile<string>[];
const MARKS = [
  { value: '0', words: 'none', picture: 'marks0' },
  { value: '1', words: 'one', picture: 'marks1' },
  { value: '2', words: 'two, one edge', picture: 'marks2' },
  { value: '3', words: 'three', picture: 'marks3' },
  { value: '4', words: 'four corners', picture: 'marks4' },
  { value: 'more', words: 'more along', picture: 'marksMore' },
  UNKNOWN,
] as const satisfies readonly Tile<string>[];

/** What is taken where nobody knows, and who asks again. */
const TAKEN = {
  prints: 'Taken: a desk printer.',
  cuts: 'Taken: another machine.',
  comes: 'Taken: sheets of A4.',
  media: 'Taken: film; the log learns how it drifts.',
  marks: 'Taken: none. The first sheet tells.',
} as const;

/** Of a roll the proof is a piece as wide as most rolls, mm. */
const ROLL_PIECE = { widthMm: 600, heightMm: 1200 } as const;
const MORE_EVERY_MM = 400;

export function FourAnswers({ form, unit }: { form: UseFormReturn<ShopFields>; unit: LengthUnit }) {
  const [prints, setPrints] = useState<string>('desk');
  const [cuts, setCuts] = useState<string>('other');
  const [comes, setComes] = useState<string>('sheets');
  const [media, setMedia] = useState<string>('film');
  const [marks, setMarks] = useState<string | null>(null);
  const set = <N extends FieldPath<ShopFields>>(name: N, value: string): void =>
    form.setValue(name, value as never, { shouldDirty: true });
  const length = (mm: number): string => fieldLength(mm, unit);
  const chooseComes = (value: string): void => {
    setComes(value);
    choosePaper(form, value === 'roll' ? ROLL_PIECE : PAPERS[0]!, unit);
  };
  const chooseCuts = (value: string): void => {
    setCuts(value);
    if (value !== 'same') return;
    set('cutter', form.getValues('printer'));
    chooseMarks('0');
  };
  const chooseMarks = (value: string): void => {
    setMarks(value);
    form.clearErrors('marks.count');
    set('marks.count', value === 'more' ? '4' : value === 'unknown' ? '0' : value);
    set('marks.everyMm', value === 'more' ? length(MORE_EVERY_MM) : '');
    form.setValue('marksTold', true);
  };
  return (
    <div className="four">
      <Question
        nth={1}
        words="What prints?"
        tiles={PRINTS}
        value={prints}
        taken={TAKEN.prints}
        choose={setPrints}
      >
        <Field form={form} name="printer" label="Printer" wide />
      </Question>
      <Question nth={2} words="What cuts?" tiles={CUTS} value={cuts} taken={TAKEN.cuts} choose={chooseCuts}>
        <Field form={form} name="cutter" label="Cutter" wide />
      </Question>
      <Question
        nth={3}
        words="Sheets or roll?"
        tiles={COMES}
        value={comes}
        taken={TAKEN.comes}
        choose={chooseComes}
      >
        {comes !== 'roll' && (
          <FormSelect
            aria-label="Size"
            defaultValue="A4"
            onChange={(e) =>
              choosePaper(
                form,
                PAPERS.find((p) => p.name === e.target.value)!,
                unit,
              )
            }
          >
            {PAPERS.map((p) => (
              <option key={p.name}>{p.name}</option>
            ))}
          </FormSelect>
        )}
      </Question>
      <Question
        nth={4}
        words="Which medium?"
        tiles={MEDIA}
        value={media}
        taken={TAKEN.media}
        choose={(value) => {
          setMedia(value);
          set('mediaClass', value === 'unknown' ? 'film' : value);
        }}
      >
        <Field form={form} name="media" label="Media" wide />
      </Question>
      {cuts !== 'same' && (
        <Question
          words="Does it look for marks?"
          tiles={MARKS}
          value={marks ?? ''}
          taken={TAKEN.marks}
          choose={chooseMarks}
          error={errorAt(form, 'marks.count')}
          wide
        />
      )}
    </div>
  );
}

/** One question: pictures to tap, a word to type, and what is taken where nobody knows. */
function Question({
  nth,
  words,
  tiles,
  value,
  taken,
  choose,
  error,
  wide = false,
  children,
}: {
  nth?: number;
  words: string;
  tiles: readonly Tile<string>[];
  value: string;
  taken: string;
  choose: (value: string) => void;
  error?: string | undefined;
  wide?: boolean;
  children?: ReactNode;
}) {
  return (
    <fieldset className={wide ? 'question question-wide' : 'question'}>
      <legend>
        {nth && <span className="question-nth">{nth}</span>} {words}
      </legend>
      {children && <div className="question-word">{children}</div>}
      <div className="tiles">
        {tiles.map((tile) => (
          <label key={tile.value} className={value === tile.value ? 'tile chosen' : 'tile'}>
            <input
              type="radio"
              name={words}
              value={tile.value}
              checked={value === tile.value}
              onChange={() => choose(tile.value)}
            />
            <svg viewBox="0 0 64 48" width="64" height="48" aria-hidden="true">
              {TILE_PICTURES[tile.picture]}
            </svg>
            <span>{tile.words}</span>
          </label>
        ))}
      </div>
      {value === 'unknown' && <span className="small-print">{taken}</span>}
      {error && (
        <span className="field-error" role="alert">
          {error}
        </span>
      )}
    </fieldset>
  );
}
