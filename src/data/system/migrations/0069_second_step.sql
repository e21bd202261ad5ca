CREATE TABLE "slate"."passkey" (
	"id" uuid PRIMARY KEY NOT NULL,
	"person_id" uuid NOT NULL,
	"label" text NOT NULL,
	"credential_id" text NOT NULL,
	"public_key" text NOT NULL,
	"counter" bigint DEFAULT 0 NOT NULL,
	"transports" text[] DEFAULT '{}'::text[] NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"last_used_at" timestamp with time zone,
	CONSTRAINT "passkey_credential_id_unique" UNIQUE("credential_id")
);
--> statement-breakpoint
CREATE TABLE "slate"."second_step" (
	"id" uuid PRIMARY KEY NOT NULL,
	"person_id" uuid NOT NULL,
	"secret" text NOT NULL,
	"spare_codes" text NOT NULL,
	"verified" boolean DEFAULT false NOT NULL,
	"failed" integer DEFAULT 0 NOT NULL,
	"locked_until" timestamp with time zone,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"last_code" text,
	"last_at" timestamp with time zone,
	CONSTRAINT "second_step_person_id_unique" UNIQUE("person_id")
);
--> statement-breakpoint
ALTER TABLE "slate"."person" ADD COLUMN "asks_code" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "slate"."session" ADD COLUMN "proven_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "slate"."passkey" ADD CONSTRAINT "passkey_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "slate"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."second_step" ADD CONSTRAINT "second_step_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "slate"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "passkey_person" ON "slate"."passkey" USING btree ("person_id");
--> statement-breakpoint
-- Who is signed in stays so.
UPDATE slate.session SET proven_at = created_at;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.trail_label(about text, line jsonb) RETURNS text LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  RETURN coalesce(left(CASE
    WHEN about IN ('right', 'form-writes') AND line->>'table_id' IS NOT NULL THEN (SELECT label FROM designed_table WHERE id = (line->>'table_id')::uuid)
    WHEN about IN ('right', 'outside-words') THEN (SELECT design->>'title' FROM form WHERE id = (line->>'form_id')::uuid)
    WHEN about = 'form' THEN line->'design'->>'title'
    WHEN about = 'release' THEN line->'design'->>'title'
    WHEN about = 'outside-link' THEN line->>'label' || ' · ' || (SELECT design->>'title' FROM form WHERE id = (line->>'form_id')::uuid)
    WHEN about = 'column' THEN (SELECT label FROM designed_table WHERE id = (line->>'table_id')::uuid) || ' · ' || (line->>'label')
    WHEN about = 'linked-table' THEN (SELECT label FROM designed_table WHERE id = (line->>'table_id')::uuid)
    WHEN about IN ('absence', 'password', 'invitation', 'session', 'second-step', 'passkey') THEN (SELECT name FROM person WHERE id = (line->>'person_id')::uuid)
    WHEN about = 'look' THEN (SELECT name FROM person WHERE id = (line->>'as_id')::uuid)
    ELSE coalesce(line->>'label', line->>'name') END, 300), '');
END $$;
--> statement-breakpoint
-- Notes what somebody did about how they sign in: what it is about, and what was done.
CREATE FUNCTION slate.note_signing_in() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE line jsonb := CASE WHEN TG_OP = 'DELETE' THEN to_jsonb(OLD) ELSE to_jsonb(NEW) END;
BEGIN
  INSERT INTO trail (by_id, address, subject, verb, subject_id, label, changed)
    VALUES (coalesce(slate.asking(), (line->>'person_id')::uuid), coalesce(slate.coming_from(), nullif(line->>'ip_address', '')), TG_ARGV[0], TG_ARGV[1], (line->>'id')::uuid, slate.trail_label(TG_ARGV[0], line),
      CASE WHEN TG_ARGV[1] = 'made' AND line->>'user_agent' IS NOT NULL THEN jsonb_build_object('user_agent', jsonb_build_array(NULL, left(line->>'user_agent', 300))) ELSE '{}' END);
  RETURN NULL;
END $$;
--> statement-breakpoint
DROP TRIGGER trail_session ON slate.session;
--> statement-breakpoint
DROP TRIGGER trail_session_ended ON slate.session;
--> statement-breakpoint
-- Somebody is in once all was given that signing in asks for; the library begins a session before that, and takes it back.
CREATE TRIGGER trail_session AFTER UPDATE OF proven_at ON slate.session FOR EACH ROW WHEN (OLD.proven_at IS NULL AND NEW.proven_at IS NOT NULL) EXECUTE FUNCTION slate.note_signing_in('session', 'made');
--> statement-breakpoint
CREATE TRIGGER trail_session_whole AFTER INSERT ON slate.session FOR EACH ROW WHEN (NEW.proven_at IS NOT NULL) EXECUTE FUNCTION slate.note_signing_in('session', 'made');
--> statement-breakpoint
CREATE TRIGGER trail_session_ended AFTER DELETE ON slate.session FOR EACH ROW WHEN (OLD.expires_at > now() AND OLD.proven_at IS NOT NULL) EXECUTE FUNCTION slate.note_signing_in('session', 'removed');
--> statement-breakpoint
CREATE TRIGGER trail_second_step AFTER UPDATE OF verified ON slate.second_step FOR EACH ROW WHEN (NEW.verified AND NOT OLD.verified) EXECUTE FUNCTION slate.note_signing_in('second-step', 'made');
--> statement-breakpoint
CREATE TRIGGER trail_second_step_off AFTER DELETE ON slate.second_step FOR EACH ROW WHEN (OLD.verified) EXECUTE FUNCTION slate.note_signing_in('second-step', 'removed');
--> statement-breakpoint
CREATE TRIGGER trail_passkey AFTER INSERT ON slate.passkey FOR EACH ROW EXECUTE FUNCTION slate.note_signing_in('passkey', 'made');
--> statement-breakpoint
CREATE TRIGGER trail_passkey_gone AFTER DELETE ON slate.passkey FOR EACH ROW EXECUTE FUNCTION slate.note_signing_in('passkey', 'removed');
--> statement-breakpoint
-- Passkeys are seen, made and taken away by whose they are; signing in finds one by its name, which only its device tells.
ALTER TABLE slate.passkey ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY passkey_own ON slate.passkey USING (person_id = (SELECT slate.asking())) WITH CHECK (person_id = (SELECT slate.asking()));
--> statement-breakpoint
CREATE FUNCTION slate.passkey_named(credential text) RETURNS TABLE (id uuid, person_id uuid, email text, public_key text, counter bigint, transports text[]) LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT k.id, k.person_id, p.email, k.public_key, k.counter, k.transports FROM passkey k JOIN person p ON p.id = k.person_id AND p.ended_at IS NULL WHERE k.credential_id = credential
$$;
--> statement-breakpoint
-- Whoever comes first with a count is in; the same count again is another device with a copy of the key.
CREATE FUNCTION slate.passkey_used(of_id uuid, counted bigint) RETURNS boolean LANGUAGE sql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  UPDATE passkey SET counter = counted, last_used_at = now() WHERE id = of_id AND (counted = 0 AND counter = 0 OR counted > counter) RETURNING true
$$;
--> statement-breakpoint
-- For somebody who has lost their telephone and their codes: they sign in by their password alone until they set it up anew.
CREATE FUNCTION slate.take_off_second_step(who uuid) RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  PERFORM slate.only_administrators();
  IF who = slate.asking() THEN RAISE EXCEPTION 'not like this' USING ERRCODE = 'TS010'; END IF;
  DELETE FROM second_step WHERE person_id = who;
  DELETE FROM passkey WHERE person_id = who;
  UPDATE person SET asks_code = false WHERE id = who;
  DELETE FROM session WHERE person_id = who;
END $$;
