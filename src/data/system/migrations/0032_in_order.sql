-- Texts are sorted as people put them in order: 9 before 10, and capitals beside small letters. Where PostgreSQL was built without ICU they are sorted by their bytes, as before.
DO $$
BEGIN
  CREATE COLLATION slate.in_order (provider = icu, locale = 'und-u-kn-true');
EXCEPTION WHEN feature_not_supported OR undefined_object OR invalid_parameter_value THEN
  CREATE COLLATION slate.in_order FROM pg_catalog."C";
END $$;
--> statement-breakpoint
-- Indexes of the order before serve nothing any more; those that are wanted are made anew when somebody sorts.
DO $$
DECLARE old record;
BEGIN
  FOR old IN SELECT c.relname FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace WHERE n.nspname = 'records' AND c.relkind = 'i' AND c.relname ~ '_(up|down)_[0-9a-f]{12}$' LOOP
    EXECUTE format('DROP INDEX records.%I', old.relname);
  END LOOP;
END $$;
