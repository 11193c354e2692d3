export { readDxf, type DxfRefusal } from './readDxf';
export { writeDxf } from './writeDxf';
