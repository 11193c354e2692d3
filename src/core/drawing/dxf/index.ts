export { readDxf, type DxfRefusal } from './readDxf';
export { DXF_CHORD_MM, writeDxf } from './writeDxf';
