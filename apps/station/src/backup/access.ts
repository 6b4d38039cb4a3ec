/** Where a copy of the data can be made: as a role that reads all and may make scratch databases. */
export interface BackupAccess {
  readonly url: string;
  /** Folder of PostgreSQL's own programs. */
  readonly programs: string;
}
