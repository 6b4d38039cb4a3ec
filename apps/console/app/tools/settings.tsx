export { SettingsPlace as default } from '../../src/places/tools/settings/settings-place';
