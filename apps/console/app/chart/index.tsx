export { ChartPlace as default } from '../../src/places/chart/chart-place';
