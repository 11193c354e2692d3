export { idleDays, USUAL_POLICY, type CheckPolicy } from './policy';
export { chartOfRecord, rigChartRefusalText, type ChartRecord, type RecordChart } from './chartRecord';
export { RIG_CHARTS, type LoadColumns, type RigChart, type RigChartKind } from './rigChart';
export { thinned } from './thin';
export { watched, type FoundLoad, type WatchedAxis } from './watched';
export { watchShift, type Watch, type WatchedLoad } from './watchShift';
export {
  CHART_DEFAULTS,
  chartRefusalText,
  CHARTS,
  controlChart,
  type ChartKind,
  type ChartRefusal,
  type ChartSpec,
  type ControlChart,
} from './controlChart';
