'use client';

import FormControl from 'react-bootstrap/FormControl';
import { useRef, type ReactNode } from 'react';
import type { UseFormReturn } from 'react-hook-form';

import type { LengthUnit } from '@/core/units';
import { HEADING_WORDS } from '@/ui/words/frameWords';
import { Fold } from '@/ui/Fold';
import { useLater } from '@/ui/useLater';

import { FourAnswers } from './FourAnswers';
import type { ShopPart } from './readShopForm';
import { Field } from './ShopField';
import { MachinesPanel, MediumFirst, MediumPanel, Sheet, type EquipmentChoice } from './ShopPanels';
import type { ShopFields } from './shopTypes';

interface Group {
  readonly name: string;
  readonly words: string;
  readonly usual: (fields: ShopFields, unit: LengthUnit) => string;
  readonly show: (props: GroupProps) => ReactNode;
}

interface GroupProps {
  readonly form: UseFormReturn<ShopFields>;
  readonly unit: LengthUnit;
  readonly equipment: EquipmentChoice | undefined;
  /** Panels that are fetched once the form can be seen. */
  readonly rest: typeof import('./shopRest') | null;
}

const COUNT_WORDS: Readonly<Record<string, string>> = {
  ...{ 0: 'none', 1: 'one', 2: 'two', 3: 'three', 4: 'four' },
};
const listed = (texts: readonly string[], none: string): string =>
  texts.filter((t) => t.trim() !== '').join(', ') || none;

/** Everything but the questions, a line each that says what holds while it is closed. */
const GROUPS = {
  name: {
    words: 'Called',
    usual: ({ name, printer }) => name || `${printer || 'printer'} rig`,
    show: ({ form }) => (
      <div className="row">
        <Field form={form} name="name" label="Name" hint="as you call it at the machine" wide />
      </div>
    ),
  },
  settings: {
    words: 'Figures it takes',
    usual: ({ settings }) =>
      listed(
        settings.map((s) => s.name),
        'none: the file carries it',
      ),
    show: ({ form, unit, rest }) => rest && <rest.SettingsPanel form={form} unit={unit} />,
  },
  sheet: {
    words: 'Sheet and allowed miss',
    usual: (f, unit) => `${f.sheetWidthMm} × ${f.sheetHeightMm}, ${f.toleranceMm} ${unit} allowed`,
    show: ({ form, unit }) => <Sheet form={form} unit={unit} />,
  },
  medium: {
    words: 'Held by, reversed',
    usual: ({ grip, mirrored }) => `${grip ? `mat, ${grip}` : 'no mat noted'}${mirrored ? ', reversed' : ''}`,
    show: ({ form, equipment }) => <MediumPanel form={form} equipment={equipment} />,
  },
  marks: {
    words: 'Marks',
    usual: ({ marks }) => COUNT_WORDS[marks.count] ?? marks.count,
    show: ({ form, unit, rest }) => rest && <rest.MarksPanel form={form} unit={unit} />,
  },
  files: {
    words: 'Cut files lie',
    usual: ({ fileFrame: { xRuns } }) =>
      xRuns === '' ? 'as the print does' : `x runs ${HEADING_WORDS[xRuns]}`,
    show: ({ form, unit, rest }) => rest && <rest.FilesPanel form={form} unit={unit} />,
  },
  recipe: {
    words: 'Recipe',
    usual: ({ recipe }) => listed([recipe.tray, recipe.face, recipe.paperType], 'none noted'),
    show: ({ form, rest }) => rest && <rest.RecipePanel form={form} />,
  },
  roll: {
    words: 'On a roll',
    usual: ({ roll }) => `lead ${roll.leadMm}, tail ${roll.tailMm}`,
    show: ({ form, unit, rest }) => rest && <rest.RollPanel form={form} unit={unit} />,
  },
} satisfies Record<string, Omit<Group, 'name'>>;

const loadRest = () => import('./shopRest');

/** Longer than this a sheet is taken for a piece of a roll. */
const ROLL_FROM = 1000;
const onRoll = ({ sheetHeightMm, roll }: ShopFields, unit: LengthUnit): boolean =>
  Number.parseFloat(sheetHeightMm.replace(',', '.')) * (unit === 'mm' ? 1 : 25.4) > ROLL_FROM ||
  roll.longestMm !== '';

const OF_PART: Readonly<Record<ShopPart, readonly (keyof typeof GROUPS)[]>> = {
  rig: ['settings', 'files'],
  setup: ['sheet', 'marks', 'medium', 'recipe', 'roll'],
  'new-rig': ['name', 'settings', 'sheet', 'marks', 'medium', 'files', 'recipe', 'roll'],
};

/** A form’s part: what is asked stands open, the rest is folded, and can be searched. */
export function ShopFolds({
  part,
  fresh,
  ...props
}: Omit<GroupProps, 'rest'> & { readonly part: ShopPart; readonly fresh: boolean }) {
  const rest = useLater(loadRest);
  const { form, unit } = props;
  const fields = form.watch();
  const box = useRef<HTMLDivElement>(null);
  const names = OF_PART[part].filter((name) => name !== 'roll' || part !== 'new-rig' || onRoll(fields, unit));
  return (
    <>
      {part === 'new-rig' && <FourAnswers form={form} unit={unit} />}
      {part === 'rig' && <MachinesPanel form={form} />}
      {part === 'setup' && <MediumFirst form={form} />}
      {!fresh && (
        <FormControl
          type="search"
          className="mt-3"
          placeholder="Search what can be told, for example “roller”"
          aria-label="Search what can be told"
          onChange={(e) => box.current && search(box.current, e.target.value)}
        />
      )}
      <div className="shop-folds" ref={box}>
        {names.map((name) => {
          const group: Omit<Group, 'name'> = GROUPS[name];
          return (
            <Fold
              key={name}
              name={`shop-${name}`}
              anchor={name}
              words={group.words}
              usual={group.usual(fields, unit)}
            >
              {group.show({ ...props, rest })}
            </Fold>
          );
        })}
      </div>
    </>
  );
}

/** Opens the groups in which something is called so, and puts the others away. */
function search(box: HTMLElement, text: string): void {
  const wanted = text.trim().toLowerCase();
  for (const fold of box.querySelectorAll('details')) {
    const found = wanted !== '' && (fold.textContent ?? '').toLowerCase().includes(wanted);
    fold.hidden = wanted !== '' && !found;
    if (found) fold.open = true;
  }
}
