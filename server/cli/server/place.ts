/** The server whose words these are: its database, and where its files lie. */
export interface ServerPlace {
  readonly databaseUrl: string;
  readonly dataFolder: string;
  /** Where pg_dump and pg_restore are: of the database's own version. */
  readonly postgresBinaries: string;
}
