CREATE TABLE "slate"."change_pending" (
	"change_id" uuid NOT NULL,
	"record_id" uuid NOT NULL,
	CONSTRAINT "change_pending_change_id_record_id_pk" PRIMARY KEY("change_id","record_id")
);
--> statement-breakpoint
CREATE TABLE "slate"."table_change" (
	"id" uuid PRIMARY KEY NOT NULL,
	"table_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	"state" text NOT NULL,
	"base" jsonb,
	"redesign" jsonb NOT NULL,
	"progress" jsonb,
	"issues" jsonb,
	"version" integer DEFAULT 1 NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "table_change_state" CHECK ("slate"."table_change"."state" IN ('draft', 'running', 'refused', 'done', 'dropped'))
);
--> statement-breakpoint
ALTER TABLE "slate"."designed_column" ADD COLUMN "example" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "slate"."designed_column" ADD COLUMN "default_value" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "slate"."designed_column" ADD COLUMN "retired" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "slate"."designed_table" ADD COLUMN "numbering" text DEFAULT 'yearly' NOT NULL;--> statement-breakpoint
ALTER TABLE "slate"."designed_table" ADD COLUMN "together" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "slate"."designed_table" ADD COLUMN "version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "slate"."change_pending" ADD CONSTRAINT "change_pending_change_id_table_change_id_fk" FOREIGN KEY ("change_id") REFERENCES "slate"."table_change"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."table_change" ADD CONSTRAINT "table_change_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "slate"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "table_change_table" ON "slate"."table_change" USING btree ("table_id","updated_at");--> statement-breakpoint
CREATE UNIQUE INDEX "table_change_open" ON "slate"."table_change" USING btree ("table_id","person_id") WHERE "slate"."table_change"."state" IN ('draft', 'refused', 'running');--> statement-breakpoint
CREATE UNIQUE INDEX "table_change_running" ON "slate"."table_change" USING btree ("table_id") WHERE "slate"."table_change"."state" = 'running';--> statement-breakpoint
ALTER TABLE slate.table_change ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
ALTER TABLE slate.change_pending ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
-- A draft is its owner's; what was done is told to all who may see the table.
CREATE POLICY own ON slate.table_change USING (person_id = (SELECT slate.asking()));
--> statement-breakpoint
CREATE POLICY told ON slate.table_change FOR SELECT USING (state = 'done' AND slate.may(table_id, 'see'));
--> statement-breakpoint
CREATE FUNCTION slate.tell_change() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  IF NEW.state IS DISTINCT FROM OLD.state THEN
    PERFORM slate.tell('change:' || NEW.id);
    IF NEW.state = 'done' THEN PERFORM slate.tell('table:' || NEW.table_id); PERFORM slate.tell('forms'); END IF;
  ELSE PERFORM pg_notify('slate_live', 'change:' || NEW.id);
  END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER change_told AFTER UPDATE OF state, progress ON slate.table_change FOR EACH ROW EXECUTE FUNCTION slate.tell_change();
--> statement-breakpoint
-- The numbers that go on from year to year are counted under the year 0.
CREATE OR REPLACE FUNCTION slate.next_number(of_table uuid) RETURNS text LANGUAGE sql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  WITH counted AS (
    INSERT INTO number_counter AS c (table_id, year, last)
    SELECT of_table, CASE t.numbering WHEN 'yearly' THEN extract(year FROM now())::int ELSE 0 END, 1 FROM designed_table t WHERE t.id = of_table
    ON CONFLICT (table_id, year) DO UPDATE SET last = c.last + 1 RETURNING last)
  SELECT t.prefix || CASE t.numbering WHEN 'running' THEN '-' ELSE '-' || extract(year FROM now())::int || '-' END || lpad(counted.last::text, greatest(4, length(counted.last::text)), '0')
  FROM counted, designed_table t WHERE t.id = of_table
$$;
--> statement-breakpoint
-- While a change of a table fills a column, it is the owner role that writes, and what it writes is no change of a record: the change itself
-- is the trail. Nobody but the owner role can say so: these functions run as it, so the session is its own when both names are the same.
CREATE OR REPLACE FUNCTION slate.stamp() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE sender uuid;
BEGIN
  IF TG_OP = 'INSERT' THEN
    SELECT s.sender_id INTO sender FROM submission s WHERE s.id = slate.current_submission();
    NEW.created_by := coalesce(NEW.created_by, sender, slate.asking());
    NEW.updated_by := NEW.created_by;
    NEW.updated_at := NEW.created_at;
    NEW.submission_id := coalesce(NEW.submission_id, slate.current_submission());
    NEW.version := 1;
  ELSIF NOT (coalesce(current_setting('slate.filling', true), '') = 'yes' AND session_user = current_user) THEN
    NEW.id := OLD.id; NEW.number := OLD.number; NEW.created_at := OLD.created_at; NEW.created_by := OLD.created_by;
    NEW.version := OLD.version + 1; NEW.updated_at := now(); NEW.updated_by := coalesce(slate.asking(), OLD.updated_by);
  END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.trail() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE
  row_now jsonb := CASE WHEN TG_OP = 'DELETE' THEN to_jsonb(OLD) ELSE to_jsonb(NEW) END;
BEGIN
  IF TG_OP = 'UPDATE' AND coalesce(current_setting('slate.filling', true), '') = 'yes' AND session_user = current_user THEN RETURN NULL; END IF;
  INSERT INTO history (table_id, record_id, version, change, before, after, by_id, submission_id, at)
  VALUES (TG_ARGV[0]::uuid, (row_now->>'id')::uuid, (row_now->>'version')::int,
    CASE TG_OP WHEN 'INSERT' THEN 'made' WHEN 'DELETE' THEN 'removed' ELSE 'changed' END,
    CASE WHEN TG_OP <> 'INSERT' THEN to_jsonb(OLD) END, CASE WHEN TG_OP <> 'DELETE' THEN to_jsonb(NEW) END,
    coalesce((row_now->>'updated_by')::uuid, slate.asking()), (row_now->>'submission_id')::uuid,
    CASE WHEN TG_OP = 'DELETE' THEN now() ELSE (row_now->>'updated_at')::timestamptz END);
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.tell_table() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  IF NOT (coalesce(current_setting('slate.filling', true), '') = 'yes' AND session_user = current_user) THEN PERFORM slate.tell('table:' || TG_ARGV[0]); END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
-- Stands on a table while a change fills it: whoever writes a record meanwhile leaves word.
CREATE FUNCTION slate.note_pending() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  IF NOT (coalesce(current_setting('slate.filling', true), '') = 'yes' AND session_user = current_user) THEN INSERT INTO change_pending (change_id, record_id) VALUES (TG_ARGV[0]::uuid, NEW.id) ON CONFLICT DO NOTHING; END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE FUNCTION slate.ask_change_job(of_change uuid) RETURNS void LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  IF NOT EXISTS (SELECT 1 FROM table_change WHERE id = of_change AND (person_id = asking() OR session_user = current_user)) THEN RAISE EXCEPTION 'not their change'; END IF;
  PERFORM graphile_worker.add_job('change-table', json_build_object('change', of_change), job_key := 'change-table:' || of_change, max_attempts := 3);
END $$;
