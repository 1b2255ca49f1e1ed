/** The tables were made by a newer Oquel, which this one does not know how to read. */
export class NewerData extends Error {
  override readonly name = 'NewerData';
  constructor(migrations: readonly string[]) {
    super(
      `the data were made by a newer Oquel (${migrations.join(', ')}); start that version, or restore a backup from before it`,
    );
  }
}
