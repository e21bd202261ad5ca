/** Ends the session of this browser, and shows where one signs in. */
export async function signOut(): Promise<void> {
  await fetch('/api/sign-out', {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: '{}',
  });
  location.assign('/sign-in');
}
