-- As before, and: the rows of its rows as well, each with the row it stands in. Those of a row that was removed went with it.
CREATE OR REPLACE FUNCTION slate.stored_record(of_table uuid, of_record uuid) RETURNS jsonb LANGUAGE plpgsql STABLE AS $$
DECLARE
  known record;
  found jsonb;
  rows jsonb;
BEGIN
  FOR known IN
    SELECT t.id, t.key, t.parent_id, p.key AS outer_key, p.parent_id AS outer_parent,
      (SELECT string_agg(quote_literal(c.id), ', ') FROM slate.designed_column c WHERE c.table_id = t.id AND c.formula = '') AS ids,
      (SELECT string_agg(format('r.%I::text', c.key), ', ') FROM slate.designed_column c WHERE c.table_id = t.id AND c.formula = '') AS cells
    FROM slate.designed_table t LEFT JOIN slate.designed_table p ON p.id = t.parent_id
    WHERE t.id = of_table OR t.parent_id = of_table OR p.parent_id = of_table
    ORDER BY t.id <> of_table, t.parent_id <> of_table, t.id
  LOOP
    IF known.id = of_table THEN
      EXECUTE format('SELECT jsonb_build_object(''number'', number, ''version'', version, ''removed'', removed_at IS NOT NULL, ''values'', jsonb_object(ARRAY[%s]::text[], ARRAY[%s]::text[]), ''rows'', ''{}''::jsonb) FROM records.%I AS r WHERE id = $1',
        known.ids, known.cells, known.key) INTO found USING of_record;
      IF found IS NULL THEN RETURN NULL; END IF;
    ELSIF known.parent_id = of_table THEN
      EXECUTE format('SELECT jsonb_agg(jsonb_build_object(''id'', id, ''version'', version, ''position'', position, ''values'', jsonb_object(ARRAY[%s]::text[], ARRAY[%s]::text[])) ORDER BY position, id) FROM records.%I AS r WHERE parent_id = $1 AND removed_at IS NULL',
        known.ids, known.cells, known.key) INTO rows USING of_record;
      found := jsonb_set(found, ARRAY['rows', known.id::text], coalesce(rows, '[]'));
    ELSE
      EXECUTE format('SELECT jsonb_agg(jsonb_build_object(''id'', r.id, ''of'', r.parent_id, ''version'', r.version, ''position'', r.position, ''values'', jsonb_object(ARRAY[%s]::text[], ARRAY[%s]::text[])) ORDER BY p.position, p.id, r.position, r.id) FROM records.%I AS r JOIN records.%I AS p ON p.id = r.parent_id WHERE p.parent_id = $1 AND p.removed_at IS NULL AND r.removed_at IS NULL',
        known.ids, known.cells, known.key, known.outer_key) INTO rows USING of_record;
      found := jsonb_set(found, ARRAY['rows', known.id::text], coalesce(rows, '[]'));
    END IF;
  END LOOP;
  RETURN found;
END $$;
--> statement-breakpoint
-- Of a table of rows: those of the record that the submission which is being kept changes. What stands in them is its business as they are.
CREATE FUNCTION slate.rows_in_hand(of_table uuid) RETURNS uuid[] LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE
  known designed_table;
  record_id uuid;
  ids uuid[];
BEGIN
  IF slate.current_submission() IS NULL THEN RETURN NULL; END IF;
  SELECT * INTO known FROM designed_table WHERE id = of_table AND parent_id IS NOT NULL;
  IF NOT FOUND THEN RETURN NULL; END IF;
  record_id := slate.record_in_hand(known.parent_id);
  IF record_id IS NULL THEN RETURN NULL; END IF;
  EXECUTE format('SELECT array_agg(id) FROM records.%I WHERE parent_id = $1', known.key) INTO ids USING record_id;
  RETURN ids;
END $$;
--> statement-breakpoint
-- As before, and: what stands in the rows of the record that a submission changes.
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
  FOR known IN SELECT id, key, parent_id FROM slate.designed_table WHERE parent_id IS NOT NULL LOOP
    EXECUTE format('ALTER POLICY changed ON records.%I USING ((SELECT slate.may(%L, ''change'')) OR (SELECT slate.may(%L, ''remove'')) OR parent_id = (SELECT slate.record_in_hand(%L)) OR parent_id = ANY ((SELECT slate.rows_in_hand(%L))::uuid[]) OR (SELECT slate.columns_beside(%L)) IS NOT NULL)',
      known.key, known.id, known.id, known.parent_id, known.parent_id, known.id);
  END LOOP;
END $$;
