/** A command that does not fit the document as it is. */
export class CommandError extends Error {
  /** @param field of the command that is wrong, such as `ids.2` */
  constructor(
    readonly field: string,
    message: string,
  ) {
    super(message);
    this.name = 'CommandError';
  }
}
