export { ForecastsPlace as default } from '../../src/places/tools/forecasts/forecasts-place';
export { ErrorBoundary } from '../../src/places/boundary';
