/** Joins the class names that apply. */
export const classes = (...names: (string | false | null | undefined)[]): string =>
  names.filter(Boolean).join(' ');
