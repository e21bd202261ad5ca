-- The people of the workspace as a table that others refer to: a copy that follows slate.person, and that nobody writes.
DO $$
DECLARE
  directory CONSTANT uuid := '01900000-0000-7000-8000-000000000001';
  key text;
BEGIN
  SELECT k INTO key FROM unnest(ARRAY['colleagues', 'colleagues_directory', 'workspace_colleagues']) WITH ORDINALITY AS wanted (k, place)
    WHERE NOT EXISTS (SELECT 1 FROM slate.designed_table t WHERE t.key = k) AND to_regclass(format('records.%I', k)) IS NULL ORDER BY place LIMIT 1;
  INSERT INTO slate.designed_table (id, key, label, prefix, title, numbering) VALUES (directory, key, 'Colleagues', 'CO', '{name}', 'running');
  INSERT INTO slate.designed_column (table_id, id, key, label, kind, required, is_unique, personal, position) VALUES
    (directory, 'name', 'name', 'Name', 'text', true, false, 'name', 0),
    (directory, 'email', 'email', 'E-mail', 'e-mail', false, false, 'e-mail', 1),
    (directory, 'place', 'place', 'Place', 'text', false, false, NULL, 2);
  INSERT INTO slate.access_grant (table_id, action) VALUES (directory, 'see'), (directory, 'pick');
  INSERT INTO slate.access_grant (table_id, role, action) VALUES (directory, 'administrator', 'design');
  EXECUTE format($made$
    CREATE TABLE records.%1$I (id uuid NOT NULL DEFAULT slate.uuid_v7(), number text NOT NULL DEFAULT slate.next_number(%2$L), name text NOT NULL, email text, place text, created_at timestamptz NOT NULL DEFAULT now(), created_by uuid, updated_at timestamptz NOT NULL DEFAULT now(), updated_by uuid, version integer NOT NULL DEFAULT 1, submission_id uuid, removed_at timestamptz);
    COMMENT ON TABLE records.%1$I IS 'Colleagues';
    COMMENT ON COLUMN records.%1$I.name IS 'Name';
    COMMENT ON COLUMN records.%1$I.email IS 'E-mail';
    COMMENT ON COLUMN records.%1$I.place IS 'Place';
    ALTER TABLE records.%1$I ADD PRIMARY KEY (id);
    ALTER TABLE records.%1$I ADD CONSTRAINT t01900000000070008000000000000001_number UNIQUE (number), ADD FOREIGN KEY (created_by) REFERENCES slate.person (id), ADD FOREIGN KEY (updated_by) REFERENCES slate.person (id);
    ALTER TABLE records.%1$I ENABLE ROW LEVEL SECURITY;
    CREATE POLICY seen ON records.%1$I FOR SELECT USING ((SELECT slate.may(%2$L, 'see')) OR (SELECT slate.picks_from(%2$L)) OR (SELECT slate.keeps_in(%2$L)));
    CREATE POLICY added ON records.%1$I FOR INSERT WITH CHECK (false);
    CREATE POLICY changed ON records.%1$I FOR UPDATE USING (false);
    CREATE POLICY removed ON records.%1$I FOR DELETE USING (false);
    CREATE TRIGGER held BEFORE UPDATE ON records.%1$I FOR EACH ROW EXECUTE FUNCTION slate.hold_to_rights(%2$L);
    CREATE TRIGGER stamp BEFORE INSERT OR UPDATE ON records.%1$I FOR EACH ROW EXECUTE FUNCTION slate.stamp();
    CREATE TRIGGER trail AFTER INSERT OR UPDATE OR DELETE ON records.%1$I FOR EACH ROW EXECUTE FUNCTION slate.trail(%2$L);
    CREATE TRIGGER told AFTER INSERT OR UPDATE OR DELETE ON records.%1$I FOR EACH STATEMENT EXECUTE FUNCTION slate.tell_table(%2$L);
  $made$, key, directory);
END $$;
--> statement-breakpoint
-- Whoever has left stands there as removed, so nobody picks them, and what names them still says who they were.
CREATE FUNCTION slate.follow_person() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE key text := (SELECT t.key FROM designed_table t WHERE t.id = '01900000-0000-7000-8000-000000000001');
BEGIN
  EXECUTE format($follow$
    INSERT INTO records.%1$I AS d (id, name, email, place, removed_at) VALUES ($1, $2, $3, nullif($4, ''), $5)
    ON CONFLICT (id) DO UPDATE SET name = excluded.name, email = excluded.email, place = excluded.place, removed_at = excluded.removed_at
      WHERE (d.name, d.email, d.place, d.removed_at) IS DISTINCT FROM (excluded.name, excluded.email, excluded.place, excluded.removed_at)
  $follow$, key) USING NEW.id, NEW.name, NEW.email, NEW.place, NEW.ended_at;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER followed AFTER INSERT OR UPDATE OF name, email, place, ended_at ON slate.person FOR EACH ROW EXECUTE FUNCTION slate.follow_person();
--> statement-breakpoint
-- Those who are here already.
UPDATE slate.person SET name = name;
