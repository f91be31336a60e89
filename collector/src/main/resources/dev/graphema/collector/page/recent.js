// Questions that were asked before in this browser.

const KEY = 'graphema.recent';
const MOST = 20;

export function recent() {
  try {
    return JSON.parse(localStorage.getItem(KEY) ?? '[]');
  } catch {
    return [];
  }
}

export function remember(question) {
  if (question) {
    localStorage.setItem(KEY, JSON.stringify([question, ...recent().filter(each => each !== question)].slice(0, MOST)));
  }
}
