// Who is signed in, and the form for those who are not.

import {html} from 'lit-html';
import {get, post} from './api.js';

/**
 * Exchanges the secret in the address of a local page, which is used up at once, for a cookie.
 *
 * @throws Problem if it was used before
 */
export async function exchangeSecret() {
  const parameters = new URLSearchParams(location.hash.slice(1));
  const once = parameters.get('once');
  if (once) {
    parameters.delete('once');
    history.replaceState(null, '', `#${parameters}`);
    await post('/session', {once});
  }
}

export function session() {
  return get('/session');
}

/**
 * The form for name and password.
 *
 * @param message why it is shown again; empty for the first time
 * @param signedIn is called when it was accepted
 * @param refused is called with the reason
 */
export function form(message, signedIn, refused) {
  const submit = async submitted => {
    submitted.preventDefault();
    const {name, password} = submitted.target.elements;
    try {
      await post('/session', {name: name.value, password: password.value});
    } catch (error) {
      refused(error.message);
      return;
    }
    await signedIn();
  };
  return html`<form class="sign-in" @submit=${submit}><label>name <input name="name" autocomplete="username" required></label>
    <label>password <input name="password" type="password" autocomplete="current-password" required></label>
    <button>sign in</button><p class="wrong-text" role="alert">${message}</p></form>`;
}
