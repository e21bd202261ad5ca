-- The token by which a program asks, for the length of a transaction; null for people.
CREATE FUNCTION slate.token() RETURNS uuid LANGUAGE sql STABLE AS $$ SELECT nullif(current_setting('slate.token', true), '')::uuid $$;
--> statement-breakpoint
CREATE TABLE "slate"."api_token" (
	"id" uuid PRIMARY KEY NOT NULL,
	"label" text NOT NULL,
	"person_id" uuid NOT NULL,
	"hash" text NOT NULL,
	"hint" text NOT NULL,
	"made_by_id" uuid NOT NULL,
	"made_at" timestamp with time zone DEFAULT now() NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"ended_at" timestamp with time zone,
	"ended_by_id" uuid,
	"last_used_at" timestamp with time zone,
	"minute" timestamp with time zone,
	"used" integer DEFAULT 0 NOT NULL,
	CONSTRAINT "api_token_hash_unique" UNIQUE("hash")
);
--> statement-breakpoint
CREATE TABLE "slate"."api_token_grant" (
	"token_id" uuid NOT NULL,
	"table_id" uuid,
	"form_id" uuid,
	"action" text NOT NULL,
	CONSTRAINT "api_token_grant_one" CHECK (num_nonnulls("slate"."api_token_grant"."table_id", "slate"."api_token_grant"."form_id") = 1)
);
--> statement-breakpoint
ALTER TABLE "slate"."history" ADD COLUMN "token_id" uuid DEFAULT slate.token();--> statement-breakpoint
ALTER TABLE "slate"."submission_event" ADD COLUMN "token_id" uuid DEFAULT slate.token();--> statement-breakpoint
ALTER TABLE "slate"."api_token" ADD CONSTRAINT "api_token_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "slate"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."api_token" ADD CONSTRAINT "api_token_made_by_id_person_id_fk" FOREIGN KEY ("made_by_id") REFERENCES "slate"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."api_token" ADD CONSTRAINT "api_token_ended_by_id_person_id_fk" FOREIGN KEY ("ended_by_id") REFERENCES "slate"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."api_token_grant" ADD CONSTRAINT "api_token_grant_token_id_api_token_id_fk" FOREIGN KEY ("token_id") REFERENCES "slate"."api_token"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."api_token_grant" ADD CONSTRAINT "api_token_grant_table_id_designed_table_id_fk" FOREIGN KEY ("table_id") REFERENCES "slate"."designed_table"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."api_token_grant" ADD CONSTRAINT "api_token_grant_form_id_form_id_fk" FOREIGN KEY ("form_id") REFERENCES "slate"."form"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "api_token_grant_token" ON "slate"."api_token_grant" USING btree ("token_id");
--> statement-breakpoint
ALTER TABLE slate.api_token ADD CONSTRAINT api_token_label CHECK (label ~ '\S' AND length(label) <= 200);
--> statement-breakpoint
ALTER TABLE slate.api_token_grant ADD CONSTRAINT api_token_grant_action CHECK (CASE WHEN form_id IS NULL THEN action IN ('see', 'add', 'change', 'remove') ELSE action IN ('fill', 'see-all') END);
--> statement-breakpoint
-- Whether what a token names holds this; always where no program asks. A token that was ended holds nothing, also for what is under way. What it writes names records of
-- other tables, so it may pick from those.
CREATE FUNCTION slate.token_allows(of_table uuid, of_form uuid, wanted text) RETURNS boolean LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE mine uuid := slate.token();
BEGIN
  IF mine IS NULL THEN RETURN true; END IF;
  RETURN EXISTS (SELECT 1 FROM api_token k JOIN api_token_grant g ON g.token_id = k.id WHERE k.id = mine AND k.ended_at IS NULL AND k.person_id = slate.asking()
    AND (g.form_id = of_form AND g.action = wanted OR g.table_id = of_table AND g.action = wanted
      OR wanted = 'pick' AND g.action IN ('add', 'change') AND (EXISTS (SELECT 1 FROM designed_column c WHERE c.table_id = g.table_id AND c.target_id = of_table)
        OR EXISTS (SELECT 1 FROM designed_table t WHERE t.id = g.table_id AND t.parent_id = of_table))));
END $$;
--> statement-breakpoint
-- As before, and nothing beyond the token of a program.
CREATE OR REPLACE FUNCTION slate.may(of_table uuid, wanted text) RETURNS boolean LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  RETURN EXISTS (SELECT 1 FROM access_grant g WHERE g.table_id = of_table AND g.action = wanted AND g.where_rule IS NULL AND slate.is_for(g, slate.asking())) AND slate.token_allows(of_table, NULL, wanted);
END $$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.may_form(of_form uuid, wanted text) RETURNS boolean LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  RETURN EXISTS (SELECT 1 FROM access_grant g WHERE g.form_id = of_form AND g.action = wanted AND slate.is_for(g, slate.asking())) AND slate.token_allows(NULL, of_form, wanted);
END $$;
--> statement-breakpoint
-- No program administers, whoever it acts for.
CREATE OR REPLACE FUNCTION slate.administers() RETURNS boolean LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  RETURN slate.token() IS NULL AND EXISTS (SELECT 1 FROM person WHERE id = slate.asking() AND ended_at IS NULL AND 'administrator' = ANY (roles));
END $$;
--> statement-breakpoint
-- What somebody sent is theirs to see, but a program sees only what goes by the forms of its token.
CREATE POLICY token_reach ON slate.submission AS RESTRICTIVE USING ((SELECT slate.token()) IS NULL OR slate.token_allows(NULL, form_id, 'fill') OR slate.token_allows(NULL, form_id, 'see-all'))
  WITH CHECK ((SELECT slate.token()) IS NULL OR slate.token_allows(NULL, form_id, 'fill'));
--> statement-breakpoint
ALTER TABLE slate.api_token ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
ALTER TABLE slate.api_token_grant ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY token_seen ON slate.api_token FOR SELECT USING ((SELECT slate.administers()));
--> statement-breakpoint
CREATE POLICY token_grant_seen ON slate.api_token_grant FOR SELECT USING ((SELECT slate.administers()));
--> statement-breakpoint
-- Makes a token, for administrators; made again under its id it stays what it was. False where the person may not be acted for.
CREATE FUNCTION slate.make_token(of_id uuid, called text, acts_for uuid, secret_hash text, last_letters text, happened timestamptz, until timestamptz, named jsonb) RETURNS boolean LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  PERFORM slate.only_administrators();
  IF NOT EXISTS (SELECT 1 FROM person WHERE id = acts_for AND ended_at IS NULL) THEN RETURN false; END IF;
  INSERT INTO api_token (id, label, person_id, hash, hint, made_by_id, made_at, expires_at) VALUES (of_id, called, acts_for, secret_hash, last_letters, slate.asking(), happened, until);
  INSERT INTO api_token_grant (token_id, table_id, form_id, action)
    SELECT of_id, (one->>'tableId')::uuid, (one->>'formId')::uuid, one->>'action' FROM jsonb_array_elements(named) AS one;
  RETURN true;
END $$;
--> statement-breakpoint
-- Ends a token at once; false where there is none.
CREATE FUNCTION slate.end_token(of_id uuid, happened timestamptz) RETURNS boolean LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  PERFORM slate.only_administrators();
  UPDATE api_token SET ended_at = coalesce(ended_at, happened), ended_by_id = coalesce(ended_by_id, slate.asking()) WHERE id = of_id;
  RETURN FOUND;
END $$;
--> statement-breakpoint
-- The token of a secret, with what it names, and how often it was used in this minute, this time counted; nothing where it is none, or not any more. Losing a count in a
-- crash harms nobody, so nobody waits for the disk.
CREATE FUNCTION slate.take_token(secret_hash text, happened timestamptz) RETURNS jsonb LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE k api_token;
BEGIN
  PERFORM set_config('synchronous_commit', 'off', true);
  UPDATE api_token t SET last_used_at = happened, minute = date_trunc('minute', happened), used = CASE WHEN t.minute = date_trunc('minute', happened) THEN t.used + 1 ELSE 1 END
    WHERE t.hash = secret_hash AND t.ended_at IS NULL AND t.expires_at > happened AND EXISTS (SELECT 1 FROM person p WHERE p.id = t.person_id AND p.ended_at IS NULL) RETURNING * INTO k;
  IF k.id IS NULL THEN RETURN NULL; END IF;
  RETURN jsonb_build_object('id', k.id, 'person', k.person_id, 'used', k.used,
    'who', (SELECT jsonb_build_object('id', p.id, 'name', p.name, 'email', p.email, 'place', p.place) FROM person p WHERE p.id = k.person_id),
    'grants', coalesce((SELECT jsonb_agg(jsonb_build_object('tableId', g.table_id, 'formId', g.form_id, 'action', g.action)) FROM api_token_grant g WHERE g.token_id = k.id), '[]'));
END $$;
--> statement-breakpoint
-- What a token is called, for those who see what was done by it.
CREATE FUNCTION slate.token_label(of_id uuid) RETURNS text LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$ SELECT label FROM api_token WHERE id = of_id $$;
