// Keys that work everywhere, unless somebody is typing.

export function isTyping(event) {
  const target = event.target;
  return target instanceof Element && (target.closest('.cm-editor, [contenteditable=true]') !== null || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName));
}

export const KEYS = [
  ['/', 'type a question'],
  ['u', 'undo the last change of the question'],
  ['m', 'the time map: arrows move, Shift and arrows select, Enter narrows, c compares'],
  ['e', 'the list of events: ↑ ↓ or j k move, Enter opens, Esc closes'],
  ['d', 'the open event: Tab moves between its values'],
  ['1 … 8', 'events, failures, messages, values, live, kept questions, boards, alerts'],
  ['a', 'the events around the open event'],
  ['t', 'the trail of the open event'],
  ['o', 'oldest or newest first'],
  ['z', 'local time or UTC'],
  ['?', 'this help, and the language of conditions'],
];

/** Calls an action for each key; `actions` has functions by key. */
export function listen(actions) {
  addEventListener('keydown', event => {
    if (event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey || isTyping(event) || document.querySelector('dialog[open]')) {
      return;
    }
    const action = actions[event.key];
    if (action) {
      event.preventDefault();
      action();
    }
  });
}
