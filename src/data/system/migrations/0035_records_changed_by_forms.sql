ALTER TABLE "slate"."submission" ADD COLUMN "of_record" uuid;--> statement-breakpoint
ALTER TABLE "slate"."submission" ADD COLUMN "base" jsonb;--> statement-breakpoint
CREATE INDEX "submission_of_record" ON "slate"."submission" USING btree ("of_record") WHERE "slate"."submission"."of_record" IS NOT NULL;--> statement-breakpoint
ALTER TABLE "slate"."submission" ADD CONSTRAINT "submission_base" CHECK (("slate"."submission"."of_record" IS NULL) = ("slate"."submission"."base" IS NULL));
--> statement-breakpoint
-- What somebody may do with a table, whoever asks.
CREATE FUNCTION slate.person_may(who uuid, of_table uuid, wanted text) RETURNS boolean LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  RETURN EXISTS (SELECT 1 FROM access_grant g WHERE g.table_id = of_table AND g.action = wanted AND g.where_rule IS NULL AND slate.is_for(g, who));
END $$;
--> statement-breakpoint
-- The record of a table that the submission which is being kept changes. Its sender may change the records of every table the form writes to: whoever
-- approves it last need not. A record it does not name, and one of another table, is none of its business.
CREATE FUNCTION slate.record_in_hand(of_table uuid) RETURNS uuid LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  IF slate.current_submission() IS NULL THEN RETURN NULL; END IF;
  RETURN (SELECT s.of_record FROM submission s JOIN form_release r ON r.id = s.release_id
    JOIN table_form f ON f.table_id = of_table AND f.form_id = s.form_id AND f.state = 'allowed'
    WHERE s.id = slate.current_submission() AND s.state IN ('kept', 'rehearsing') AND r.design->'table'->>'id' = of_table::text
      AND NOT EXISTS (SELECT 1 FROM release_table w WHERE w.release_id = s.release_id AND w.use = 'write' AND NOT slate.person_may(s.sender_id, w.table_id, 'change')));
END $$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.hold_to_rights() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
  moved boolean := OLD.removed_at IS DISTINCT FROM NEW.removed_at;
  stamps text[] := ARRAY['removed_at', 'updated_at', 'updated_by', 'version'];
  parent uuid;
BEGIN
  IF NOT row_security_active(TG_RELID) THEN RETURN NEW; END IF;
  -- Of the record that a submission changes, its columns and all of its rows.
  IF slate.current_submission() IS NOT NULL THEN
    IF NOT moved AND OLD.id = slate.record_in_hand(TG_ARGV[0]::uuid) THEN RETURN NEW; END IF;
    SELECT t.parent_id INTO parent FROM slate.designed_table t WHERE t.id = TG_ARGV[0]::uuid;
    IF parent IS NOT NULL AND (to_jsonb(OLD)->>'parent_id')::uuid = slate.record_in_hand(parent) AND to_jsonb(NEW)->'parent_id' = to_jsonb(OLD)->'parent_id' THEN RETURN NEW; END IF;
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
    EXECUTE format('ALTER POLICY changed ON records.%I USING ((SELECT slate.may(%L, ''change'')) OR (SELECT slate.may(%L, ''remove'')) OR %I = (SELECT slate.record_in_hand(%L)))',
      known.key, known.id, known.id, CASE WHEN known.parent_id IS NULL THEN 'id' ELSE 'parent_id' END, coalesce(known.parent_id, known.id));
  END LOOP;
END $$;
--> statement-breakpoint
-- A record that a submission changes was changed by whoever sent it, not by whoever approved that.
CREATE OR REPLACE FUNCTION slate.stamp() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE sender uuid;
BEGIN
  IF slate.current_submission() IS NOT NULL THEN
    SELECT s.sender_id INTO sender FROM submission s WHERE s.id = slate.current_submission();
  END IF;
  IF TG_OP = 'INSERT' THEN
    NEW.created_by := coalesce(NEW.created_by, sender, slate.asking());
    NEW.updated_by := NEW.created_by;
    NEW.updated_at := NEW.created_at;
    NEW.submission_id := coalesce(NEW.submission_id, slate.current_submission());
    NEW.version := 1;
  ELSIF NOT (coalesce(current_setting('slate.filling', true), '') = 'yes' AND session_user = current_user) THEN
    NEW.id := OLD.id; NEW.number := OLD.number; NEW.created_at := OLD.created_at; NEW.created_by := OLD.created_by;
    NEW.version := OLD.version + 1; NEW.updated_at := now(); NEW.updated_by := coalesce(sender, slate.asking(), OLD.updated_by);
  END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
-- What changed a record later is not the submission it was made by.
CREATE OR REPLACE FUNCTION slate.trail() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE
  row_now jsonb := CASE WHEN TG_OP = 'DELETE' THEN to_jsonb(OLD) ELSE to_jsonb(NEW) END;
BEGIN
  IF TG_OP = 'UPDATE' AND coalesce(current_setting('slate.filling', true), '') = 'yes' AND session_user = current_user THEN RETURN NULL; END IF;
  INSERT INTO history (table_id, record_id, version, change, before, after, by_id, submission_id, at)
  VALUES (TG_ARGV[0]::uuid, (row_now->>'id')::uuid, (row_now->>'version')::int,
    CASE TG_OP WHEN 'INSERT' THEN 'made' WHEN 'DELETE' THEN 'removed' ELSE 'changed' END,
    CASE WHEN TG_OP <> 'INSERT' THEN to_jsonb(OLD) END, CASE WHEN TG_OP <> 'DELETE' THEN to_jsonb(NEW) END,
    coalesce((row_now->>'updated_by')::uuid, slate.asking()),
    CASE TG_OP WHEN 'INSERT' THEN (row_now->>'submission_id')::uuid WHEN 'UPDATE' THEN slate.current_submission() END,
    CASE WHEN TG_OP = 'DELETE' THEN now() ELSE (row_now->>'updated_at')::timestamptz END);
  RETURN NULL;
END $$;
--> statement-breakpoint
-- A record with its rows as texts, by the ids of tables and columns, as whoever asks sees it. What is calculated by its table is not stored, and left out.
CREATE FUNCTION slate.stored_record(of_table uuid, of_record uuid) RETURNS jsonb LANGUAGE plpgsql STABLE AS $$
DECLARE
  known record;
  found jsonb;
  rows jsonb;
BEGIN
  FOR known IN
    SELECT t.id, t.key, t.parent_id,
      (SELECT string_agg(quote_literal(c.id), ', ') FROM slate.designed_column c WHERE c.table_id = t.id AND c.formula = '') AS ids,
      (SELECT string_agg(format('%I::text', c.key), ', ') FROM slate.designed_column c WHERE c.table_id = t.id AND c.formula = '') AS cells
    FROM slate.designed_table t WHERE t.id = of_table OR t.parent_id = of_table ORDER BY t.parent_id NULLS FIRST, t.id
  LOOP
    IF known.id = of_table THEN
      EXECUTE format('SELECT jsonb_build_object(''number'', number, ''version'', version, ''removed'', removed_at IS NOT NULL, ''values'', jsonb_object(ARRAY[%s]::text[], ARRAY[%s]::text[]), ''rows'', ''{}''::jsonb) FROM records.%I WHERE id = $1',
        known.ids, known.cells, known.key) INTO found USING of_record;
      IF found IS NULL THEN RETURN NULL; END IF;
    ELSE
      EXECUTE format('SELECT jsonb_agg(jsonb_build_object(''id'', id, ''version'', version, ''position'', position, ''values'', jsonb_object(ARRAY[%s]::text[], ARRAY[%s]::text[])) ORDER BY position, id) FROM records.%I WHERE parent_id = $1 AND removed_at IS NULL',
        known.ids, known.cells, known.key) INTO rows USING of_record;
      found := jsonb_set(found, ARRAY['rows', known.id::text], coalesce(rows, '[]'));
    END IF;
  END LOOP;
  RETURN found;
END $$;
--> statement-breakpoint
-- The record a submission changes, to those who see the submission and as long as it is still to be decided: whoever decides a change must know what it
-- changes, and need not know what becomes of the record later.
CREATE FUNCTION slate.record_of_submission(of_submission uuid) RETURNS jsonb LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE s submission; me uuid := slate.asking();
BEGIN
  SELECT * INTO s FROM submission WHERE id = of_submission AND of_record IS NOT NULL AND state IN ('draft', 'sent-back', 'waiting');
  IF NOT FOUND OR NOT (s.sender_id = me OR EXISTS (SELECT 1 FROM ask a WHERE a.submission_id = s.id AND a.person_id = me) OR (s.sent_at IS NOT NULL AND slate.owns_form(s.form_id))) THEN RETURN NULL; END IF;
  -- What its sender does not see is shown to nobody by it.
  IF NOT slate.person_may(s.sender_id, (SELECT (r.design->'table'->>'id')::uuid FROM form_release r WHERE r.id = s.release_id), 'see') THEN RETURN NULL; END IF;
  RETURN slate.stored_record((SELECT (r.design->'table'->>'id')::uuid FROM form_release r WHERE r.id = s.release_id), s.of_record);
END $$;
--> statement-breakpoint
DROP FUNCTION slate.note_kept(uuid, uuid, timestamptz);
--> statement-breakpoint
-- Which record it became, or changed, with how that was before; once, by whoever brought it to its end.
CREATE FUNCTION slate.note_kept(of_submission uuid, record uuid, was jsonb, happened timestamptz) RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  UPDATE submission SET record_id = record, base = CASE WHEN of_record IS NOT NULL THEN coalesce(was, base) END, updated_at = happened
    WHERE id = of_submission AND state = 'kept' AND record_id IS NULL AND id = slate.current_submission() AND coalesce(of_record, record) = record;
  IF NOT FOUND THEN RAISE EXCEPTION 'this is not kept now' USING ERRCODE = 'TS010'; END IF;
  INSERT INTO submission_event (submission_id, position, kind, by_id, at) SELECT of_submission, coalesce(max(position), 0) + 1, 'keep', slate.asking(), happened FROM submission_event WHERE submission_id = of_submission;
END $$;
