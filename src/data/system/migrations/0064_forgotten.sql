CREATE TABLE "slate"."account_mail" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"person_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"token_of" uuid,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"claimed_at" timestamp with time zone,
	CONSTRAINT "account_mail_kind" CHECK ("slate"."account_mail"."kind" IN ('invited', 'forgotten', 'changed'))
);
--> statement-breakpoint
ALTER TABLE "slate"."account_mail" ADD CONSTRAINT "account_mail_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "slate"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
-- Mails about coming in leave at once, where a worker is there to take them.
CREATE FUNCTION slate.mail_now() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  PERFORM graphile_worker.add_job('mail-notices', job_key := 'mail-now', max_attempts := 1);
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER mail_now AFTER INSERT ON slate.account_mail FOR EACH STATEMENT EXECUTE FUNCTION slate.mail_now();
--> statement-breakpoint
-- Whoever's password was changed is told, whichever way it was. A first one is no change.
CREATE FUNCTION slate.tell_changed() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  INSERT INTO account_mail (person_id, kind) VALUES (NEW.person_id, 'changed');
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER tell_changed AFTER UPDATE OF password ON slate.account FOR EACH ROW WHEN (OLD.password IS NOT NULL AND NEW.password IS NOT NULL AND OLD.password <> NEW.password) EXECUTE FUNCTION slate.tell_changed();
--> statement-breakpoint
DROP FUNCTION slate.invite(uuid, text, timestamptz);
--> statement-breakpoint
-- An invitation makes those before it worthless. `mailed_of`: from what its token is made, where it is mailed as well.
CREATE FUNCTION slate.invite(who uuid, hash text, until timestamptz, mailed_of uuid) RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  PERFORM slate.only_administrators();
  IF NOT EXISTS (SELECT 1 FROM person WHERE id = who AND ended_at IS NULL AND roles <> '{}') THEN RAISE EXCEPTION 'not here' USING ERRCODE = 'TS010'; END IF;
  UPDATE invitation SET expires_at = now() WHERE person_id = who AND used_at IS NULL;
  INSERT INTO invitation (token_hash, person_id, by_id, expires_at) VALUES (hash, who, slate.asking(), until);
  IF mailed_of IS NOT NULL THEN INSERT INTO account_mail (person_id, kind, token_of) VALUES (who, 'invited', mailed_of); END IF;
END $$;
--> statement-breakpoint
-- Whoever has this address and forgot their password is mailed a link, three times an hour at most. It leaves what they have as it is, so that nobody locks
-- others out, and it answers the same whether there is such a person or not.
CREATE FUNCTION slate.forgotten(address text, hash text, until timestamptz, mailed_of uuid) RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE who uuid;
BEGIN
  -- Held, so that many at once are counted one after the other.
  SELECT id INTO who FROM person WHERE lower(email) = lower(address) AND ended_at IS NULL AND roles <> '{}' FOR NO KEY UPDATE;
  IF who IS NULL OR (SELECT count(*) FROM invitation WHERE person_id = who AND by_id = who AND expires_at > now()) >= 3 THEN RETURN; END IF;
  INSERT INTO invitation (token_hash, person_id, by_id, expires_at) VALUES (hash, who, who, least(until, now() + interval '1 hour'));
  INSERT INTO account_mail (person_id, kind, token_of) VALUES (who, 'forgotten', mailed_of);
END $$;
--> statement-breakpoint
DROP FUNCTION slate.invited(text);
--> statement-breakpoint
-- Whom an invitation is for; nothing when it is not good any more. `again`: they have a password and choose another.
CREATE FUNCTION slate.invited(hash text) RETURNS TABLE (id uuid, name text, email text, place text, again boolean) LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT p.id, p.name, p.email, p.place, EXISTS (SELECT 1 FROM account a WHERE a.person_id = p.id AND a.password IS NOT NULL)
  FROM invitation i JOIN person p ON p.id = i.person_id WHERE i.token_hash = hash AND i.used_at IS NULL AND i.expires_at > now() AND p.ended_at IS NULL
$$;
--> statement-breakpoint
-- Takes it up once: the password is theirs from now on; sessions under an older one end, and what else was asked for is worth nothing any more.
CREATE OR REPLACE FUNCTION slate.take_invitation(hash text, password_hash text) RETURNS uuid LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE who uuid;
BEGIN
  UPDATE invitation i SET used_at = now() FROM person p WHERE i.token_hash = hash AND i.used_at IS NULL AND i.expires_at > now() AND p.id = i.person_id AND p.ended_at IS NULL RETURNING p.id INTO who;
  IF who IS NULL THEN RETURN NULL; END IF;
  UPDATE invitation SET used_at = now() WHERE person_id = who AND used_at IS NULL;
  DELETE FROM session WHERE person_id = who;
  UPDATE account SET password = password_hash, updated_at = now() WHERE person_id = who AND provider_id = 'credential';
  IF NOT FOUND THEN INSERT INTO account (id, account_id, provider_id, person_id, password) VALUES (gen_random_uuid(), who::text, 'credential', who, password_hash); END IF;
  RETURN who;
END $$;
