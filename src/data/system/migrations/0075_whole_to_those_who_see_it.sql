-- Whoever sees all of a table with restricted columns reads it by a view that has them as they stand. Its indexes serve as they do for any other table: where a
-- column stands in a CASE, PostgreSQL takes none, and finding words in a million records ran out of time.
CREATE SCHEMA whole;
--> statement-breakpoint
-- Asked once for a statement, before its first record is read. Whoever does not see all of it any more is refused as where a right is missing: the program then
-- begins again with what they see now.
CREATE FUNCTION slate.held_to_whole(of_table uuid) RETURNS boolean LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  IF slate.hidden_keys(of_table) <> '{}' THEN RAISE EXCEPTION 'permission denied for columns of this table' USING ERRCODE = 'insufficient_privilege'; END IF;
  RETURN true;
END $$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.let_go_of_shown(of_table uuid) RETURNS void LANGUAGE plpgsql VOLATILE AS $$
DECLARE key text := (SELECT t.key FROM slate.designed_table t WHERE t.id = of_table);
BEGIN
  -- One that is about to be made has none.
  IF key IS NOT NULL THEN EXECUTE format('DROP VIEW IF EXISTS shown.%I, whole.%I', key, key); END IF;
END $$;
--> statement-breakpoint
-- As before, and: the view for those who see all of it.
CREATE OR REPLACE FUNCTION slate.settle_shown(of_table uuid) RETURNS void LANGUAGE plpgsql VOLATILE AS $$
DECLARE
  key text := (SELECT t.key FROM slate.designed_table t WHERE t.id = of_table);
  base regclass := to_regclass(format('records.%I', key));
  cells text;
  plain text;
  free text;
  reader text;
BEGIN
  IF base IS NULL THEN RETURN; END IF;
  PERFORM slate.let_go_of_shown(of_table);
  IF NOT EXISTS (SELECT 1 FROM slate.designed_column c WHERE c.table_id = of_table AND c.restricted) THEN
    FOR reader IN SELECT slate.reading_roles() LOOP EXECUTE format('GRANT SELECT ON %s TO %I', base, reader); END LOOP;
    RETURN;
  END IF;
  SELECT string_agg(CASE WHEN c.restricted THEN format('CASE WHEN (SELECT slate.sees_column(%L, %L)) THEN t.%I END AS %I', of_table, c.id, a.attname, a.attname) ELSE format('t.%I', a.attname) END, ', ' ORDER BY a.attnum),
      string_agg(format('t.%I', a.attname), ', ' ORDER BY a.attnum),
      string_agg(format('%I', a.attname), ', ') FILTER (WHERE c.restricted IS NOT TRUE)
    INTO cells, plain, free
    FROM pg_attribute a LEFT JOIN slate.designed_column c ON c.table_id = of_table AND c.key = a.attname AND c.formula = '' WHERE a.attrelid = base AND a.attnum > 0 AND NOT a.attisdropped;
  -- What is worked out of a record is a function of it, which is told of no view.
  SELECT concat_ws(', ', cells, string_agg(CASE WHEN c.restricted THEN format('CASE WHEN (SELECT slate.sees_column(%L, %L)) THEN calculated.%I(t) END AS %I', of_table, c.id, c.key, c.key) ELSE format('calculated.%I(t) AS %I', c.key, c.key) END, ', ' ORDER BY c.position)),
      concat_ws(', ', plain, string_agg(format('calculated.%I(t) AS %I', c.key, c.key), ', ' ORDER BY c.position))
    INTO cells, plain
    FROM slate.designed_column c JOIN pg_proc p ON p.proname = c.key AND p.pronamespace = 'calculated'::regnamespace AND p.proargtypes[0] = (SELECT reltype FROM pg_class WHERE oid = base)
    WHERE c.table_id = of_table AND c.formula <> '';
  EXECUTE format('CREATE VIEW shown.%I AS SELECT %s FROM %s AS t', key, cells, base);
  EXECUTE format('CREATE VIEW whole.%I AS SELECT %s FROM %s AS t WHERE (SELECT slate.held_to_whole(%L))', key, plain, base, of_table);
  FOR reader IN SELECT slate.reading_roles() LOOP
    EXECUTE format('GRANT SELECT ON shown.%I, whole.%I TO %I', key, key, reader);
    EXECUTE format('REVOKE SELECT ON %s FROM %I', base, reader);
    EXECUTE format('GRANT SELECT (%s) ON %s TO %I', free, base, reader);
  END LOOP;
  EXECUTE format('ALTER VIEW shown.%I OWNER TO %I', key, slate.showing_role());
  EXECUTE format('ALTER VIEW whole.%I OWNER TO %I', key, slate.showing_role());
END $$;
--> statement-breakpoint
DO $$
DECLARE reader text;
BEGIN
  EXECUTE format('GRANT USAGE, CREATE ON SCHEMA whole TO %I', slate.showing_role());
  FOR reader IN SELECT slate.reading_roles() LOOP EXECUTE format('GRANT USAGE ON SCHEMA whole TO %I', reader); END LOOP;
END $$;
--> statement-breakpoint
SELECT slate.settle_all_shown();
