import { hashPassword } from 'better-auth/crypto';
import type { Role } from '../src/core/access/rules';
import type { Tx } from '../src/data/connect';
import { account, person } from '../src/data/system/schema';

export interface NewPerson {
  readonly id: string;
  readonly name: string;
  readonly email: string;
  readonly place: string;
  readonly roles: readonly Role[];
  readonly password: string;
}

/** People with a password each, as the sign-in library keeps them. */
export async function addPeople(tx: Pick<Tx, 'insert'>, people: readonly NewPerson[]): Promise<void> {
  for (const { password, roles, ...rest } of people) {
    await tx.insert(person).values({ ...rest, roles: [...roles], emailVerified: true });
    await tx.insert(account).values({
      id: crypto.randomUUID(),
      accountId: rest.id,
      providerId: 'credential',
      userId: rest.id,
      password: await hashPassword(password),
    });
  }
}
