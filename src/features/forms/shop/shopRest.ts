/* Panels of the shop's form that stand folded: fetched once the form can be seen. */

export { FilesPanel } from './FilesPanel';
export { MarksPanel } from './MarksPanel';
export { RecipePanel } from './RecipePanel';
export { RollPanel } from './RollPanel';
export { SettingsPanel } from './SettingsPanel';
