import { issue, type Issue } from '../kernel/issue';

/** Length is what makes a password hard to guess; what everybody uses is tried first, however long it is. */
export const passwordLength = { least: 10, most: 200 } as const;

/** Of the lists of passwords that leaked most often, those long enough to pass otherwise; in small letters. */
const COMMON = new Set(
  `1234567890 12345678910 123456789a 123456789q 1234567891 0123456789 0987654321 9876543210 1111111111 0000000000 1122334455
  1q2w3e4r5t 1qaz2wsx3edc qwertyuiop qwerty12345 qwerty123456 qwertyuiop123 q1w2e3r4t5 asdfghjkl1 asdfghjklqwe zxcvbnm123 zaq12wsxcde
  password12 password123 password1234 password12345 passw0rd123 p@ssw0rd123 mypassword mypassword1 password01 password2026
  iloveyou123 iloveyou12 iloveyouforever letmein1234 welcome123 welcome1234 welcome2026 admin12345 administrator adminadmin admin123456
  changeme123 changemenow sunshine123 princess123 football123 baseball123 basketball superman123 batman12345 dragon12345 monkey12345
  michael123 jennifer123 liverpool1 manchester chocolate1 strawberry butterfly1 christmas1 abcdefghij abcdefghijk abcd123456 abc123456789
  a123456789 aa12345678 qazwsxedc123 trustno1trustno1 starwars123 computer123 internet123 whatever123 secret12345 blink182blink
  tidyslate1 tidy-slate tidyslate123`.split(/\s+/),
);

/** What is wrong with a new password; null when it may be used. */
export function passwordIssue(password: string, email: string): Issue | null {
  const { least, most } = passwordLength;
  const length = [...password].length;
  if (length < least || length > most) return issue('password-length', ['password'], { least, most });
  const small = password.toLowerCase();
  const isName = small === email.toLowerCase() || small === email.toLowerCase().split('@')[0];
  return COMMON.has(small) || isName || new Set(small).size < 4
    ? issue('password-common', ['password'])
    : null;
}
