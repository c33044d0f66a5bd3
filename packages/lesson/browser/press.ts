/** A button that a script puts on the page. */
export function press(name: string, does: () => void): HTMLButtonElement {
  const made = document.createElement('button');
  made.type = 'button';
  made.className = 'go';
  made.textContent = name;
  made.addEventListener('click', does);
  return made;
}
