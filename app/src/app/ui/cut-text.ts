/** As much of a text as so many letters hold, ended with “…” where it was cut. At least one letter stands. */
export const cutText = (text: string, most: number): string => (text.length <= most ? text : `${text.slice(0, Math.max(1, most - 1)).trimEnd()}…`);
