/**
 * Brings the first field of a form whose text cannot be read to whoever would save it.
 * @returns whether there is one: nothing is saved then
 */
export function focusInvalid(form: HTMLElement): boolean {
  const wrong = form.querySelector<HTMLElement>('[aria-invalid="true"]');
  wrong?.focus();
  wrong?.scrollIntoView({ block: 'nearest' });
  return wrong !== null;
}
