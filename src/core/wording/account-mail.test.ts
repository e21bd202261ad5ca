import { expect, it } from 'vitest';
import { accountMail, type AccountNews } from './account-mail';

const about = {
  email: 'maren.solheim@quillmere.example',
  link: 'https://slate.example/welcome#a&b',
  house: 'Quillmere <Garden>',
};

it.each<[AccountNews, string]>([
  ['invited', 'You are invited to Quillmere <Garden>'],
  ['forgotten', 'A new password for Quillmere <Garden>'],
  ['signing-in', 'How you sign in to Quillmere <Garden> was changed'],
  ['changed', 'Your password for Quillmere <Garden> was changed'],
])('%s: says what happened to whose password, where, and where to go on', (kind, subject) => {
  const mail = accountMail({ ...about, kind });
  expect(mail.subject).toBe(subject);
  expect(mail.text).toContain(about.email);
  expect(mail.text).toContain(about.link);
  expect(mail.html).toContain('Quillmere &#60;Garden&#62;');
  expect(mail.html).toContain('#a&#38;b');
});

it('names the program where the workspace has no name', () =>
  expect(accountMail({ ...about, kind: 'invited', house: '' }).subject).toBe(
    'You are invited to Tidy Slate',
  ));
