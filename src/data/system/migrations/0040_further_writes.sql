ALTER TABLE "slate"."release_table" DROP CONSTRAINT "release_table_use";--> statement-breakpoint
ALTER TABLE "slate"."release_table" ADD COLUMN "columns" text[] DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE "slate"."table_form" ADD COLUMN "covers" text[] DEFAULT '{write}' NOT NULL;--> statement-breakpoint
ALTER TABLE "slate"."table_form" ADD COLUMN "asks" text[] DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE "slate"."release_table" ADD CONSTRAINT "release_table_use" CHECK ("slate"."release_table"."use" IN ('write', 'pick', 'change', 'add'));--> statement-breakpoint
-- What was asked for and not allowed yet is asked for in so many words; a form that writes already may ask for more.
UPDATE slate.table_form SET covers = '{}', asks = '{write}' WHERE state = 'asked';
--> statement-breakpoint
DROP FUNCTION slate.ask_table(uuid, uuid);
--> statement-breakpoint
CREATE FUNCTION slate.ask_table(of_table uuid, by_form uuid, wanted text[]) RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  IF NOT slate.owns_form(by_form) AND NOT slate.administers() THEN RAISE EXCEPTION 'not their form' USING ERRCODE = 'TS010'; END IF;
  INSERT INTO table_form AS f (table_id, form_id, state, covers, asks, by_id) VALUES (of_table, by_form, 'asked', '{}', wanted, slate.asking())
    ON CONFLICT (table_id, form_id) DO UPDATE SET asks = ARRAY(SELECT unnest(f.asks) UNION SELECT unnest(wanted) EXCEPT SELECT unnest(f.covers));
  PERFORM tell('table:' || of_table);
END $$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.allow_form(of_table uuid, by_form uuid, allowed boolean) RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  IF NOT slate.may(of_table, 'design') THEN RAISE EXCEPTION 'not their table' USING ERRCODE = 'TS010'; END IF;
  IF allowed THEN
    UPDATE table_form f SET state = 'allowed', covers = ARRAY(SELECT unnest(f.covers) UNION SELECT unnest(f.asks)), asks = '{}', by_id = slate.asking(), at = now()
      WHERE table_id = of_table AND form_id = by_form;
  ELSE
    -- What is asked for beyond what is allowed may be refused by itself.
    DELETE FROM table_form WHERE table_id = of_table AND form_id = by_form AND (asks = '{}' OR covers = '{}');
    UPDATE table_form SET asks = '{}' WHERE table_id = of_table AND form_id = by_form;
  END IF;
  PERFORM tell('table:' || of_table);
END $$;
--> statement-breakpoint
-- A submission adds records where its release keeps its answers, and where it adds some beside.
CREATE OR REPLACE FUNCTION slate.keeps_in(of_table uuid) RETURNS boolean LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  RETURN EXISTS (SELECT 1 FROM submission s JOIN release_table r ON r.release_id = s.release_id AND r.use IN ('write', 'add')
    JOIN table_form f ON f.table_id = r.table_id AND f.form_id = s.form_id AND f.state = 'allowed'
    WHERE s.id = slate.current_submission() AND s.state IN ('kept', 'rehearsing') AND r.table_id = of_table);
END $$;
--> statement-breakpoint
-- The columns of a table's records that the submission which is being kept changes beside its own record; null where it changes none.
CREATE FUNCTION slate.columns_beside(of_table uuid) RETURNS text[] LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  IF slate.current_submission() IS NULL THEN RETURN NULL; END IF;
  RETURN (SELECT ARRAY(SELECT c.key FROM designed_column c WHERE c.table_id = of_table AND c.id = ANY (r.columns))
    FROM submission s JOIN release_table r ON r.release_id = s.release_id AND r.use = 'change'
    JOIN table_form f ON f.table_id = r.table_id AND f.form_id = s.form_id AND f.state = 'allowed'
    WHERE s.id = slate.current_submission() AND s.state IN ('kept', 'rehearsing') AND r.table_id = of_table);
END $$;
--> statement-breakpoint
-- Whether its answers name a record: it changes none that nobody picked.
CREATE FUNCTION slate.answers_name(record uuid) RETURNS boolean LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  RETURN EXISTS (SELECT 1 FROM submission s WHERE s.id = slate.current_submission() AND strpos(s.answers::text, record::text) > 0);
END $$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.hold_to_rights() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
  moved boolean := OLD.removed_at IS DISTINCT FROM NEW.removed_at;
  stamps text[] := ARRAY['removed_at', 'updated_at', 'updated_by', 'version'];
  parent uuid;
  beside text[];
BEGIN
  IF NOT row_security_active(TG_RELID) THEN RETURN NEW; END IF;
  -- Of the record that a submission changes, its columns and all of its rows; of those it changes beside, the columns its release names.
  IF slate.current_submission() IS NOT NULL THEN
    IF NOT moved AND OLD.id = slate.record_in_hand(TG_ARGV[0]::uuid) THEN RETURN NEW; END IF;
    SELECT t.parent_id INTO parent FROM slate.designed_table t WHERE t.id = TG_ARGV[0]::uuid;
    IF parent IS NOT NULL AND (to_jsonb(OLD)->>'parent_id')::uuid = slate.record_in_hand(parent) AND to_jsonb(NEW)->'parent_id' = to_jsonb(OLD)->'parent_id' THEN RETURN NEW; END IF;
    beside := slate.columns_beside(TG_ARGV[0]::uuid);
    IF beside IS NOT NULL AND to_jsonb(NEW) - beside - stamps = to_jsonb(OLD) - beside - stamps AND NOT moved AND slate.answers_name(OLD.id) THEN RETURN NEW; END IF;
  END IF;
  IF moved AND NOT slate.may(TG_ARGV[0]::uuid, 'remove') THEN
    RAISE insufficient_privilege USING MESSAGE = 'records of this table are not to be removed by whoever asks';
  END IF;
  IF (NOT moved OR to_jsonb(NEW) - stamps <> to_jsonb(OLD) - stamps) AND NOT slate.may(TG_ARGV[0]::uuid, 'change') THEN
    RAISE insufficient_privilege USING MESSAGE = 'records of this table are not to be changed by whoever asks';
  END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
DO $$
DECLARE known record;
BEGIN
  FOR known IN SELECT id, key, parent_id FROM slate.designed_table WHERE id <> '01900000-0000-7000-8000-000000000001' LOOP
    EXECUTE format('ALTER POLICY seen ON records.%I USING ((SELECT slate.may(%L, ''see'')) OR (SELECT slate.picks_from(%L)) OR (SELECT slate.keeps_in(%L)) OR (SELECT slate.columns_beside(%L)) IS NOT NULL)',
      known.key, known.id, known.id, known.id, known.id);
    EXECUTE format('ALTER POLICY changed ON records.%I USING ((SELECT slate.may(%L, ''change'')) OR (SELECT slate.may(%L, ''remove'')) OR %I = (SELECT slate.record_in_hand(%L)) OR (SELECT slate.columns_beside(%L)) IS NOT NULL)',
      known.key, known.id, known.id, CASE WHEN known.parent_id IS NULL THEN 'id' ELSE 'parent_id' END, coalesce(known.parent_id, known.id), known.id);
  END LOOP;
END $$;
