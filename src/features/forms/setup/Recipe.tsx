import { recipeCautions } from '@/core/recipe';
import type { PrintRecipe } from '@/server/setups/shapes';

const RECIPE_WORDS = [
  ['tray', 'tray'],
  ['face', 'face'],
  ['paperType', 'paper type'],
  ['quality', 'quality'],
  ['warmUp', 'warm-up'],
  ['room', 'room'],
] as const;

/** Whether anything about the print is worth a line. */
export const recipeNoted = (recipe: PrintRecipe): boolean =>
  recipeCautions(recipe).length > 0 || RECIPE_WORDS.some(([field]) => recipe[field] !== '');

/** “cassette, label side down”: what matters of it, in half a line. */
export const recipeLine = ({ tray, face, paperType }: PrintRecipe): string =>
  [tray, face, paperType].filter((v) => v !== '').join(', ');

/** How this media is printed here, as far as it has been written down. */
export function Recipe({ recipe }: { recipe: PrintRecipe }) {
  const noted = RECIPE_WORDS.filter(([field]) => recipe[field] !== '');
  return (
    <>
      {noted.length > 0 && (
        <dl className="recipe mt-3 mb-0">
          {noted.map(([field, words]) => (
            <div key={field}>
              <dt>{words}</dt>
              <dd>{recipe[field]}</dd>
            </div>
          ))}
        </dl>
      )}
      {recipeCautions(recipe).map((words) => (
        <p key={words} className="notice mt-2 mb-0">
          {words}
        </p>
      ))}
    </>
  );
}
