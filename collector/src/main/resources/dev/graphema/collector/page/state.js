// What the page shows. All of it is in the address, so that every view is a link, and the browser's history is the history of the question.

const USUAL = {
  q: '',
  view: 'events',
  by: 'service,instance',
  columns: 'time,level,source,message',
  event: '',
  name: '',
  value: '',
  with: '',
  around: 'instance',
  board: '',
  zone: '',
};

let current = read();
const listeners = [];

function read() {
  const given = new URLSearchParams(location.hash.slice(1));
  const state = {...USUAL};
  for (const key of Object.keys(USUAL)) {
    if (given.has(key)) {
      state[key] = given.get(key);
    }
  }
  return state;
}

/** Returns the address of a state that differs from the current one. */
export function link(changes) {
  const state = {...current, ...changes};
  const parameters = new URLSearchParams();
  for (const [key, value] of Object.entries(state)) {
    if (value !== USUAL[key]) {
      parameters.set(key, value);
    }
  }
  return `#${parameters}`;
}

export function state() {
  return current;
}

/** Changes the state; `replace` adds no step to the history. */
export function go(changes, {replace = false} = {}) {
  const address = link(changes);
  if (address === (location.hash || '#')) {
    return;
  }
  history[replace ? 'replaceState' : 'pushState'](null, '', address);
  changed();
}

/** Calls back with the new and the previous state. */
export function onChange(listener) {
  listeners.push(listener);
}

function changed() {
  const previous = current;
  current = read();
  listeners.forEach(listener => listener(current, previous));
}

addEventListener('popstate', changed);
