CREATE TABLE "slate"."sign_in_try" (
	"name" text PRIMARY KEY NOT NULL,
	"tries" integer NOT NULL,
	"last_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "slate"."request_key" ADD COLUMN "operation" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "slate"."request_key" ADD COLUMN "body_hash" text DEFAULT '' NOT NULL;--> statement-breakpoint
CREATE INDEX "request_key_at" ON "slate"."request_key" USING btree ("at");--> statement-breakpoint
CREATE INDEX "submission_release" ON "slate"."submission" USING btree ("release_id");--> statement-breakpoint
CREATE INDEX "submission_event_by" ON "slate"."submission_event" USING btree ("by_id","at");
--> statement-breakpoint
-- A name signs the trail, so it is never empty and never longer than a line.
UPDATE slate.person SET name = left(coalesce(nullif(btrim(name), ''), email), 200) WHERE btrim(name) = '' OR length(name) > 200;
--> statement-breakpoint
ALTER TABLE slate.person ADD CONSTRAINT person_named CHECK (btrim(name) <> '' AND length(name) <= 200);
--> statement-breakpoint
-- Claims one try for a name: null when it may go ahead, else the seconds to wait. The first `free` tries cost nothing; each after that doubles the
-- wait, up to `most` seconds. An hour without a try forgets them. Counted before the password is looked at, so that many at once are many tries.
CREATE FUNCTION slate.claim_try(of_name text, free integer, most integer) RETURNS integer LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE known sign_in_try; pause integer;
BEGIN
  INSERT INTO sign_in_try (name, tries, last_at) VALUES (of_name, 0, now()) ON CONFLICT DO NOTHING;
  SELECT * INTO known FROM sign_in_try WHERE name = of_name FOR UPDATE;
  IF known.last_at < now() - interval '1 hour' THEN known.tries := 0; END IF;
  pause := CASE WHEN known.tries < free THEN 0 ELSE least(most, 2 ^ least(known.tries - free, 20)) END;
  IF known.last_at + make_interval(secs => pause) > now() AND pause > 0 THEN
    RETURN ceil(extract(epoch FROM known.last_at + make_interval(secs => pause) - now()));
  END IF;
  UPDATE sign_in_try SET tries = known.tries + 1, last_at = now() WHERE name = of_name;
  RETURN NULL;
END $$;
--> statement-breakpoint
-- After a success the account begins anew, and the address is given its try back: an office behind one address must not shut itself out.
CREATE FUNCTION slate.forgive_try(account text, address text) RETURNS void LANGUAGE sql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  DELETE FROM sign_in_try WHERE name = account;
  UPDATE sign_in_try SET tries = greatest(tries - 1, 0) WHERE name = address;
$$;
--> statement-breakpoint
-- Whoever listens is looked at again when rights change or a session ends.
CREATE FUNCTION slate.tell_rights() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  PERFORM pg_notify('slate_live', 'rights');
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER grants_told AFTER INSERT OR UPDATE OR DELETE ON slate.table_grant FOR EACH STATEMENT EXECUTE FUNCTION slate.tell_rights();
--> statement-breakpoint
CREATE TRIGGER roles_told AFTER UPDATE OF roles OR DELETE ON slate.person FOR EACH ROW EXECUTE FUNCTION slate.tell_rights();
--> statement-breakpoint
CREATE TRIGGER session_end_told AFTER DELETE ON slate.session FOR EACH STATEMENT EXECUTE FUNCTION slate.tell_rights();
