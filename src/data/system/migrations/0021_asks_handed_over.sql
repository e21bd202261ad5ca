-- What waits for somebody who leaves is asked of whoever takes over.
CREATE OR REPLACE FUNCTION slate.end_access(who uuid, to_person uuid) RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  PERFORM slate.only_administrators();
  IF who = slate.asking() OR who = to_person THEN RAISE EXCEPTION 'not like this' USING ERRCODE = 'TS010'; END IF;
  IF NOT EXISTS (SELECT 1 FROM person WHERE id = to_person AND ended_at IS NULL) THEN RAISE EXCEPTION 'nobody takes over' USING ERRCODE = 'TS010'; END IF;
  UPDATE person SET ended_at = now() WHERE id = who AND ended_at IS NULL;
  DELETE FROM session WHERE person_id = who;
  UPDATE account SET password = NULL WHERE person_id = who;
  UPDATE invitation SET expires_at = now() WHERE person_id = who AND used_at IS NULL;
  UPDATE form SET owner_id = to_person WHERE owner_id = who;
  INSERT INTO access_grant (table_id, form_id, person_id, action, where_rule, columns, by_id)
    SELECT table_id, form_id, to_person, action, where_rule, columns, slate.asking() FROM access_grant WHERE person_id = who ON CONFLICT DO NOTHING;
  DELETE FROM access_grant WHERE person_id = who;
  UPDATE person SET manager_id = CASE WHEN id = to_person THEN NULL ELSE to_person END WHERE manager_id = who;
  UPDATE person SET deputy_id = NULL WHERE deputy_id = who;
  -- Nobody approves their own: what the successor sent is asked of the administrator, who knows why.
  INSERT INTO ask (submission_id, step, person_id, open, since)
    SELECT a.submission_id, a.step, CASE WHEN s.sender_id = to_person THEN slate.asking() ELSE to_person END, true, a.since FROM ask a JOIN submission s ON s.id = a.submission_id
    WHERE a.person_id = who AND a.open AND (s.sender_id <> to_person OR s.sender_id <> slate.asking()) ON CONFLICT (submission_id, step, person_id) DO UPDATE SET open = true;
  UPDATE ask SET open = false WHERE person_id = who AND open;
  PERFORM slate.somebody_administers();
END $$;
