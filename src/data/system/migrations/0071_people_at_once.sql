-- Many people in one statement, so that each may work under any other of them.
CREATE FUNCTION slate.put_people(given jsonb) RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  PERFORM slate.only_administrators();
  IF EXISTS (SELECT 1 FROM jsonb_to_recordset(given) AS g(name text, roles text[]) WHERE g.name !~ '\S' OR length(g.name) > 200 OR NOT g.roles <@ '{owner,steward,administrator,colleague}') THEN
    RAISE EXCEPTION 'not like this' USING ERRCODE = 'TS010';
  END IF;
  INSERT INTO person (id, name, email, email_verified, place, roles, manager_id, deputy_id)
    SELECT g.id, g.name, lower(g.email), true, g.place, g.roles, g.manager, g.deputy FROM jsonb_to_recordset(given) AS g(id uuid, name text, email text, place text, roles text[], manager uuid, deputy uuid)
    ON CONFLICT (id) DO UPDATE SET name = excluded.name, email = excluded.email, place = excluded.place, roles = excluded.roles, manager_id = excluded.manager_id, deputy_id = excluded.deputy_id, updated_at = now();
  PERFORM slate.somebody_administers();
END $$;
