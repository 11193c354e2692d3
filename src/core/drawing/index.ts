export { INK_COLOURS, type Ink, type Mark, type Scene } from './scene';
