/** Something the caller has to mend: told in one line, exit status 2. */
export class UsageFault extends Error {
  override readonly name = 'UsageFault';
}
