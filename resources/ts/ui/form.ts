/** What somebody typed into the named fields of a form, to the last space: as passwords are. */
export function typedExactly(form: HTMLFormElement): (name: string) => string {
  const typed = new FormData(form);
  return (name) => {
    const value = typed.get(name);
    return typeof value === 'string' ? value : '';
  };
}

/** The same without the spaces around it; an empty field is null. */
export function typedInto(form: HTMLFormElement): (name: string) => string | null {
  const typed = typedExactly(form);
  return (name) => typed(name).trim() || null;
}
