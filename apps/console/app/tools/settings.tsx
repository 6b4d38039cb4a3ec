export { SettingsPlace as default } from '../../src/places/tools/settings-form';
