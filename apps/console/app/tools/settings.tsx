export { SettingsPlace as default } from '../../src/places/tools/settings/settings-place';
export { ErrorBoundary } from '../../src/places/boundary';
