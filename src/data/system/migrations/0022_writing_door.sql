-- Records are changed and removed directly by those who may. Removing is a change of a row, so the policy lets both through and this says which it is:
-- whoever may only remove changes nothing else with it, and whoever may only change removes nothing. The owner of the tables is asked nothing.
CREATE FUNCTION slate.hold_to_rights() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
  moved boolean := OLD.removed_at IS DISTINCT FROM NEW.removed_at;
  stamps text[] := ARRAY['removed_at', 'updated_at', 'updated_by', 'version'];
BEGIN
  IF NOT row_security_active(TG_RELID) THEN RETURN NEW; END IF;
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
  FOR known IN SELECT id, key FROM slate.designed_table LOOP
    EXECUTE format('ALTER POLICY changed ON records.%I USING ((SELECT slate.may(%L, ''change'')) OR (SELECT slate.may(%L, ''remove'')))', known.key, known.id, known.id);
    EXECUTE format('CREATE TRIGGER held BEFORE UPDATE ON records.%I FOR EACH ROW EXECUTE FUNCTION slate.hold_to_rights(%L)', known.key, known.id);
  END LOOP;
END $$;
--> statement-breakpoint
-- Records that are still there and name one of these, at most twenty by each column: whoever removes it must know, whatever they may see. What they may not see has no number.
CREATE FUNCTION slate.naming_these(of_table uuid, ids uuid[]) RETURNS TABLE (record uuid, in_table uuid, number text)
LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE known record;
BEGIN
  FOR known IN SELECT t.id, t.key, c.key AS by_column FROM designed_column c JOIN designed_table t ON t.id = c.table_id
    WHERE c.kind = 'reference' AND c.target_id = of_table AND NOT c.retired ORDER BY t.id, c.id
  LOOP
    RETURN QUERY EXECUTE format(
      'SELECT %I, %L::uuid, CASE WHEN $2 THEN number ELSE '''' END FROM records.%I WHERE %I = ANY ($1) AND removed_at IS NULL LIMIT 20',
      known.by_column, known.id, known.key, known.by_column) USING ids, may(known.id, 'see');
  END LOOP;
END $$;
