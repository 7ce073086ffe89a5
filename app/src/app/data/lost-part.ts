/** How browsers say that a part of a program could not be fetched. */
const sayings = /dynamically imported module|Importing a module script failed|Loading chunk/i;

/** Whether something failed because a part of the program, loaded when it is wanted, could not be fetched. */
export const isLostPart = (error: unknown): boolean => error instanceof Error && sayings.test(error.message);

/** The same in words. */
export const lostPart =
  'A part of this program could not be fetched: the server has a newer version, or the connection is gone. What you entered is saved. Reload the page, then try again.';
