/** True while keys belong to a text field. */
export function isTyping(event: KeyboardEvent): boolean {
  const target = event.target as HTMLElement | null;
  return target !== null && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));
}

/** True while somebody is typing somewhere: what comes up late leaves the focus there. */
export function isTypedInto(): boolean {
  const { activeElement } = document;
  return (
    activeElement !== null && (activeElement as HTMLElement).matches("input, textarea, select, [contenteditable=true]")
  );
}
