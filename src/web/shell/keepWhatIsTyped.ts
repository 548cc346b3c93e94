/**
 * Whoever leaves or reloads the page leaves the field that they type in first: what is saved when a field is
 * left is saved then, too.
 * @returns a function that ends it
 */
export function keepWhatIsTyped(): () => void {
  const leave = () => {
    if (document.activeElement instanceof HTMLElement) document.activeElement.blur();
  };
  window.addEventListener('pagehide', leave);
  return () => window.removeEventListener('pagehide', leave);
}
