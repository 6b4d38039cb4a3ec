export { BackupPlace as default } from '../../src/places/tools/backup-place';
