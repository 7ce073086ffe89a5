/** Whether keys pressed at an element are typed into it, and so no commands. */
export const isTyping = (target: EventTarget | null): boolean =>
  target instanceof Element && target.matches('input:not([type=range], [type=checkbox], [type=radio]), textarea, [contenteditable]');
