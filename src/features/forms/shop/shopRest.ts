/* Panels of the shop's form that stand folded: fetched once the form can be seen. */

export { FilesPanel } from './FilesPanel';
export { RecipePanel } from './RecipePanel';
export { RollPanel } from './RollPanel';
