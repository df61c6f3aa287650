import { passwordLength } from '@/contract/accounts';

/** Pages before anyone is known: forms that need no script. */

const escaped = (text: string): string => text.replace(/[&<>"]/g, (sign) => `&#${sign.charCodeAt(0)};`);

interface Field {
  label: string;
  name: string;
  type?: 'text' | 'password';
  autocomplete: string;
  value?: string;
  /** A sentence below it. */
  hint?: string;
  least?: number;
}

interface Form {
  title: string;
  says: string;
  action: string;
  button: string;
  /** Sent along, not seen. */
  hidden?: Record<string, string>;
  fields: readonly Field[];
  /** What was not right the last time. */
  wrong: string | null;
  /** Another way in. */
  other?: { href: string; says: string };
}

const fieldHtml = ({ label, name, type = 'text', autocomplete, value = '', hint = '', least }: Field, first: boolean) =>
  `<label>${escaped(label)}<input name="${name}" type="${type}" autocomplete="${autocomplete}" value="${escaped(value)}" maxlength="${type === 'password' ? passwordLength.most : 120}"${least ? ` minlength="${least}"` : ''} required${first ? ' autofocus' : ''}>${hint ? `<small>${escaped(hint)}</small>` : ''}</label>`;

function formPage({ title, says, action, button, hidden = {}, fields, wrong, other }: Form): string {
  const secret = Object.entries(hidden).map(
    ([name, value]) => `<input type="hidden" name="${name}" value="${escaped(value)}">`,
  );
  return `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><meta name="referrer" content="same-origin"><title>${escaped(title)} · Last</title>
<style>
:root{color-scheme:light dark;--ground:#f4efe6;--card:#fffdf8;--text:#29231e;--soft:#6b6155;--line:#b9ae98;--leather:#84461c;--on:#fff}
@media(prefers-color-scheme:dark){:root{--ground:#211c18;--card:#2a2420;--text:#f1e9dc;--soft:#b3a796;--line:#6d6254;--leather:#d99a63;--on:#211c18}}
body{margin:0;min-height:100vh;display:grid;place-items:center;background:var(--ground);color:var(--text);font:16px/1.5 system-ui,sans-serif}
main{width:min(24rem,calc(100vw - 3rem));box-sizing:border-box;padding:2rem;background:var(--card);border:1px solid var(--line);border-radius:12px}
.name{display:flex;align-items:center;gap:.5rem;font-weight:700;margin:0 0 1.25rem}h1{font-size:1.35rem;margin:0 0 .25rem}p{margin:0 0 1.25rem;color:var(--soft)}
label{display:block;margin:0 0 1rem;font-size:.95rem}small{display:block;color:var(--soft);margin-top:.2rem}
input{display:block;box-sizing:border-box;width:100%;margin-top:.25rem;padding:.5rem .6rem;font:inherit;color:inherit;background:transparent;border:1px solid var(--line);border-radius:6px}
button{padding:.5rem 1.1rem;font:inherit;font-weight:600;color:var(--on);background:var(--leather);border:0;border-radius:6px;cursor:pointer}

.other{margin:1.25rem 0 0;padding-top:1.25rem;border-top:1px solid var(--line)}.other a{color:var(--leather)}
:focus-visible{outline:2px solid var(--leather);outline-offset:2px}[role=alert]{padding:.5rem .75rem;border:1px solid #b0122b;border-radius:6px;color:var(--text)}
</style></head><body><main>
<div class="name"><svg width="22" height="12" viewBox="0 0 22 12" aria-hidden="true"><path d="M0 3a3 3 0 0 1 3-3h8c5 0 11 4 11 8v1a3 3 0 0 1-3 3H3a3 3 0 0 1-3-3z" fill="var(--leather)"/></svg>Last</div>
<h1>${escaped(title)}</h1><p>${escaped(says)}</p>
${wrong === null ? '' : `<p role="alert">${escaped(wrong)}</p>`}
<form method="post" action="${action}">
${secret.join('\n')}
${fields.map((field, at) => fieldHtml(field, at === 0)).join('\n')}
<button>${escaped(button)}</button>
</form>
${other ? `<p class="other"><a href="${escaped(other.href)}">${escaped(other.says)}</a></p>` : ''}</main></body></html>
`;
}

const passwordHint = `At least ${passwordLength.least} characters: a few words that do not belong together are easy to keep.`;

const newPassword = (label: string): Field => ({
  ...{ label, name: 'password', type: 'password', autocomplete: 'new-password' },
  ...{ hint: passwordHint, least: passwordLength.least },
});

/** Where whoever is not signed in says who they are; `provider`: who else can say it. */
export const signInPage = (to: string, wrong: string | null, name = '', provider: string | null = null): string =>
  formPage({
    title: 'Sign in',
    says: 'The workbench of this shop. An owner of it gives you an account.',
    action: '/sign-in',
    button: 'Sign in',
    hidden: { to },
    fields: [
      { label: 'Name', name: 'name', autocomplete: 'username', value: name },
      { label: 'Password', name: 'password', type: 'password', autocomplete: 'current-password' },
    ],
    wrong,
    ...(provider === null
      ? {}
      : {
          other: {
            href: `/sign-in/provider?${new URLSearchParams({ to }).toString()}`,
            says: `Sign in by ${provider}`,
          },
        }),
  });

/** Where the first owner is made, by the code on the server's console. */
export const firstRunPage = (wrong: string | null, given: { name?: string; called?: string } = {}): string =>
  formPage({
    title: 'The first owner',
    says: 'Others can reach this workbench, so it asks who is there. The server wrote a code on its console when it started.',
    action: '/first-run',
    button: 'Make the account',
    fields: [
      { label: 'Code from the console', name: 'code', autocomplete: 'one-time-code' },
      { label: 'Name to sign in with', name: 'name', autocomplete: 'username', value: given.name ?? '' },
      { label: 'What colleagues call you', name: 'called', autocomplete: 'name', value: given.called ?? '' },
      newPassword('Password'),
    ],
    wrong,
  });

/** Where a one-time link leads: a new password. `called`: null where the link does not hold. */
export const comeInPage = (link: string, called: string | null, wrong: string | null): string =>
  called === null
    ? formPage({
        title: 'This link has ended',
        says: 'It was used, or its time is over. Ask whoever sent it for another; with a password, sign in.',
        action: '/sign-in',
        button: 'Sign in',
        hidden: { to: '/bench' },
        fields: [
          { label: 'Name', name: 'name', autocomplete: 'username' },
          { label: 'Password', name: 'password', type: 'password', autocomplete: 'current-password' },
        ],
        wrong,
      })
    : formPage({
        title: `Come in, ${called}`,
        says: 'Choose a password. You are signed in with it, and everywhere else signed out.',
        action: '/come-in',
        button: 'Set it and come in',
        hidden: { link },
        fields: [newPassword('New password')],
        wrong,
      });

/** Goes on by itself, as a page of this site. */
export const goOnPage = (to: string): string =>
  `<!doctype html><html lang="en"><meta charset="utf-8"><meta http-equiv="refresh" content="0;url=${escaped(to)}"><title>Signed in · Last</title><p><a href="${escaped(to)}">Go on</a></p></html>`;
