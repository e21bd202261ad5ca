CREATE TABLE "slate"."looked_as" (
	"id" uuid PRIMARY KEY NOT NULL,
	"by_id" uuid NOT NULL,
	"as_id" uuid NOT NULL,
	"session_id" uuid NOT NULL,
	"begun_at" timestamp with time zone DEFAULT now() NOT NULL,
	"ended_at" timestamp with time zone
);
--> statement-breakpoint
-- What earlier migrations granted in this transaction is counted now, for an index waits for that.
SET CONSTRAINTS ALL IMMEDIATE;--> statement-breakpoint
DROP INDEX "slate"."access_grant_once";--> statement-breakpoint
ALTER TABLE "slate"."session" ADD COLUMN "looks_as_id" uuid;--> statement-breakpoint
ALTER TABLE "slate"."looked_as" ADD CONSTRAINT "looked_as_by_id_person_id_fk" FOREIGN KEY ("by_id") REFERENCES "slate"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."looked_as" ADD CONSTRAINT "looked_as_as_id_person_id_fk" FOREIGN KEY ("as_id") REFERENCES "slate"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "looked_as_of" ON "slate"."looked_as" USING btree ("as_id","begun_at");--> statement-breakpoint
ALTER TABLE "slate"."session" ADD CONSTRAINT "session_looks_as_id_person_id_fk" FOREIGN KEY ("looks_as_id") REFERENCES "slate"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "access_grant_once" ON "slate"."access_grant" USING btree (coalesce("table_id", "form_id"),"action",coalesce("role", "group_id"::text, "person_id"::text, ''),md5(coalesce("where_rule", '')));--> statement-breakpoint
SET CONSTRAINTS ALL DEFERRED;
--> statement-breakpoint
-- With which records somebody may do something, where it is not all of them. `may` is with some, as in `may()` of the core; `may_all` is with all there are.
CREATE FUNCTION slate.may_all(of_table uuid, wanted text) RETURNS boolean LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  RETURN EXISTS (SELECT 1 FROM access_grant g WHERE g.table_id = of_table AND g.action = wanted AND g.where_rule IS NULL AND slate.is_for(g, slate.asking())) AND slate.token_allows(of_table, NULL, wanted);
END $$;
--> statement-breakpoint
-- Whether a rule is among those by which they may.
CREATE FUNCTION slate.may_where(of_table uuid, wanted text, rule text) RETURNS boolean LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  RETURN EXISTS (SELECT 1 FROM access_grant g WHERE g.table_id = of_table AND g.action = wanted AND g.where_rule = rule AND slate.is_for(g, slate.asking())) AND slate.token_allows(of_table, NULL, wanted);
END $$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.may(of_table uuid, wanted text) RETURNS boolean LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  RETURN EXISTS (SELECT 1 FROM access_grant g WHERE g.table_id = of_table AND g.action = wanted AND slate.is_for(g, slate.asking())) AND slate.token_allows(of_table, NULL, wanted);
END $$;
--> statement-breakpoint
-- Whether they see some of its records, and not all. The rows of records are seen where those are.
CREATE FUNCTION slate.is_limited(of_table uuid) RETURNS boolean LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE above uuid := (SELECT parent_id FROM designed_table WHERE id = of_table);
BEGIN
  -- Where nobody sees a part of anything nothing else is asked.
  IF NOT EXISTS (SELECT 1 FROM access_grant WHERE where_rule IS NOT NULL) THEN RETURN false; END IF;
  RETURN slate.may(of_table, 'see') AND (NOT slate.may_all(of_table, 'see') OR (above IS NOT NULL AND slate.is_limited(above)));
END $$;
--> statement-breakpoint
-- What rules say of whoever asks. A place that is not given is a text that nothing has, so that whoever has none does not see what has none.
CREATE FUNCTION slate.my(what text) RETURNS text LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  RETURN (SELECT CASE what WHEN 'name' THEN name WHEN 'email' THEN email WHEN 'place' THEN place END FROM person WHERE id = slate.asking());
END $$;
--> statement-breakpoint
CREATE FUNCTION slate.my_groups() RETURNS text[] LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  RETURN ARRAY(SELECT label FROM person_group WHERE id = ANY (slate.groups_of(slate.asking())) ORDER BY 1);
END $$;
--> statement-breakpoint
-- Of each table with such rules one function that holds one of its records against those of whoever asks.
CREATE SCHEMA rights;
--> statement-breakpoint
CREATE FUNCTION slate.is_within(of_table uuid, wanted text, as_json jsonb) RETURNS boolean LANGUAGE plpgsql STABLE AS $$
DECLARE
  rule text := 'within_' || replace(of_table::text, '-', '');
  key text;
  holds boolean;
BEGIN
  IF slate.may_all(of_table, wanted) THEN RETURN true; END IF;
  IF NOT slate.may(of_table, wanted) OR to_regproc('rights.' || rule) IS NULL THEN RETURN false; END IF;
  SELECT t.key INTO key FROM slate.designed_table t WHERE t.id = of_table;
  EXECUTE format('SELECT rights.%I(jsonb_populate_record(NULL::records.%I, $1), $2)', rule, key) INTO holds USING as_json, wanted;
  RETURN coalesce(holds, false);
END $$;
--> statement-breakpoint
-- With which of these records whoever asks may do it, of those they see.
CREATE FUNCTION slate.those_within(of_table uuid, wanted text, ids uuid[]) RETURNS SETOF uuid LANGUAGE plpgsql STABLE AS $$
DECLARE
  rule text := 'within_' || replace(of_table::text, '-', '');
  key text := (SELECT t.key FROM slate.designed_table t WHERE t.id = of_table);
BEGIN
  IF slate.may_all(of_table, wanted) THEN
    RETURN QUERY EXECUTE format('SELECT id FROM records.%I WHERE id = ANY ($1)', key) USING ids;
  ELSIF slate.may(of_table, wanted) AND to_regproc('rights.' || rule) IS NOT NULL THEN
    RETURN QUERY EXECUTE format('SELECT r.id FROM records.%I r WHERE r.id = ANY ($1) AND rights.%I(r, $2)', key, rule) USING ids, wanted;
  END IF;
END $$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.hold_to_rights() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
  moved boolean := OLD.removed_at IS DISTINCT FROM NEW.removed_at;
  stamps text[] := ARRAY['removed_at', 'updated_at', 'updated_by', 'version'];
  parent uuid;
  old_parent uuid;
  beside text[];
BEGIN
  IF NOT row_security_active(TG_RELID) THEN RETURN NEW; END IF;
  -- Of the record that a submission changes, its columns and all of its rows; of those it changes beside, the columns its release names.
  IF slate.current_submission() IS NOT NULL THEN
    IF NOT moved AND OLD.id = slate.record_in_hand(TG_ARGV[0]::uuid) THEN RETURN NEW; END IF;
    SELECT t.parent_id INTO parent FROM slate.designed_table t WHERE t.id = TG_ARGV[0]::uuid;
    old_parent := (to_jsonb(OLD)->>'parent_id')::uuid;
    IF parent IS NOT NULL AND to_jsonb(NEW)->'parent_id' = to_jsonb(OLD)->'parent_id'
      AND (old_parent = slate.record_in_hand(parent) OR old_parent = ANY (slate.rows_in_hand(parent))) THEN RETURN NEW; END IF;
    beside := slate.columns_beside(TG_ARGV[0]::uuid);
    IF beside IS NOT NULL AND to_jsonb(NEW) - beside - stamps = to_jsonb(OLD) - beside - stamps AND NOT moved AND slate.answers_name(OLD.id) THEN RETURN NEW; END IF;
  END IF;
  IF moved AND NOT slate.is_within(TG_ARGV[0]::uuid, 'remove', to_jsonb(OLD)) THEN
    RAISE insufficient_privilege USING MESSAGE = 'this record is not to be removed by whoever asks';
  END IF;
  -- Changed, it is still among those they may change.
  IF (NOT moved OR to_jsonb(NEW) - stamps <> to_jsonb(OLD) - stamps) AND NOT (slate.is_within(TG_ARGV[0]::uuid, 'change', to_jsonb(OLD)) AND slate.is_within(TG_ARGV[0]::uuid, 'change', to_jsonb(NEW))) THEN
    RAISE insufficient_privilege USING MESSAGE = 'this record is not to be changed so by whoever asks';
  END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
-- What was done to a record is told to those who see it. One line may stand for many that came together; it tells of none of them what it holds.
ALTER POLICY history_seen ON slate.history USING (slate.may(table_id, 'see') AND (last_id IS NOT NULL OR NOT slate.is_limited(table_id) OR slate.sees_record(table_id, record_id)));
--> statement-breakpoint
ALTER POLICY reason_seen ON slate.record_reason USING (slate.may(table_id, 'see') AND (NOT slate.is_limited(table_id) OR slate.sees_record(table_id, record_id)));
--> statement-breakpoint
-- The tables there are: what was granted for all records, as before.
DO $$
DECLARE known record;
BEGIN
  FOR known IN SELECT policyname, tablename, replace(qual, 'slate.may(', 'slate.may_all(') AS qual, replace(with_check, 'slate.may(', 'slate.may_all(') AS checked FROM pg_policies WHERE schemaname = 'records' LOOP
    EXECUTE format('ALTER POLICY %I ON records.%I%s%s', known.policyname, known.tablename, ' USING (' || known.qual || ')', ' WITH CHECK (' || known.checked || ')');
  END LOOP;
END $$;
--> statement-breakpoint
-- An administrator looks as somebody else does, in one session; kept, and told to whoever it is. Nothing is written meanwhile (`data/looking.ts`).
ALTER TABLE slate.looked_as ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY looked_seen ON slate.looked_as FOR SELECT USING ((SELECT slate.administers()) OR as_id = (SELECT slate.asking()));
--> statement-breakpoint
CREATE FUNCTION slate.look_as(by_token text, who uuid, as_row uuid) RETURNS boolean LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE mine session;
BEGIN
  PERFORM slate.only_administrators();
  SELECT * INTO mine FROM session WHERE token = by_token AND person_id = slate.asking() AND expires_at > now() FOR UPDATE;
  IF mine.id IS NULL OR who = slate.asking() OR NOT EXISTS (SELECT 1 FROM person WHERE id = who AND ended_at IS NULL) THEN RETURN false; END IF;
  UPDATE looked_as SET ended_at = now() WHERE session_id = mine.id AND ended_at IS NULL;
  UPDATE session SET looks_as_id = who WHERE id = mine.id;
  INSERT INTO looked_as (id, by_id, as_id, session_id) VALUES (as_row, slate.asking(), who, mine.id);
  RETURN true;
END $$;
--> statement-breakpoint
CREATE FUNCTION slate.look_back(by_token text) RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE mine session;
BEGIN
  UPDATE session SET looks_as_id = NULL WHERE token = by_token RETURNING * INTO mine;
  UPDATE looked_as SET ended_at = now() WHERE session_id = mine.id AND ended_at IS NULL;
END $$;
--> statement-breakpoint
-- A session that ends in any way is looked by no more.
CREATE FUNCTION slate.looked_last() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN UPDATE looked_as SET ended_at = now() WHERE session_id = OLD.id AND ended_at IS NULL; RETURN NULL; END $$;
--> statement-breakpoint
CREATE TRIGGER looked_last AFTER DELETE ON slate.session FOR EACH ROW EXECUTE FUNCTION slate.looked_last();
