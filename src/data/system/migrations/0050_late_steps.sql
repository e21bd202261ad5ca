-- What a step says of being late is done by a job: somebody is asked as well as whoever is late, or in their place where all must approve. Once for each who is late; not
-- for those who were asked because another was. It is an event of the path, and whoever looks at the sheet need not look again because of it.
CREATE FUNCTION slate.ask_because_late(of_submission uuid, who_is_late uuid, instead uuid, happened timestamptz) RETURNS boolean LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE s submission; asks jsonb; sent integer;
BEGIN
  SELECT * INTO s FROM submission WHERE id = of_submission AND state = 'waiting' FOR UPDATE;
  IF NOT FOUND THEN RETURN false; END IF;
  SELECT design->'steps'->s.step INTO asks FROM form_release WHERE id = s.release_id;
  SELECT max(position) INTO sent FROM submission_event WHERE submission_id = s.id AND kind = 'send';
  IF NOT coalesce(asks->>'late' = instead::text OR (asks->>'late' = 'manager' AND instead = (SELECT manager_id FROM person WHERE id = who_is_late)), false)
    OR instead IN (s.sender_id, who_is_late)
    OR NOT EXISTS (SELECT 1 FROM person WHERE id = instead AND ended_at IS NULL)
    OR NOT EXISTS (SELECT 1 FROM ask a WHERE a.submission_id = s.id AND a.step = s.step AND a.open AND a.person_id = who_is_late)
    OR EXISTS (SELECT 1 FROM ask a WHERE a.submission_id = s.id AND a.step = s.step AND a.open AND a.person_id = instead)
    OR EXISTS (SELECT 1 FROM submission_event e WHERE e.submission_id = s.id AND e.step = s.step AND e.position > sent
      AND (e.kind = 'late' AND (e.for_id = who_is_late OR e.to_id = who_is_late) OR e.kind = 'approve' AND e.by_id = instead)) THEN
    RETURN false;
  END IF;
  INSERT INTO submission_event (submission_id, position, kind, step, by_id, for_id, to_id, word, at)
    SELECT s.id, max(position) + 1, 'late', s.step, instead, who_is_late, instead, '', happened FROM submission_event WHERE submission_id = s.id;
  IF asks->'decide' = '"all"'::jsonb THEN UPDATE ask SET open = false WHERE submission_id = s.id AND step = s.step AND person_id = who_is_late; END IF;
  INSERT INTO ask (submission_id, step, person_id, open, since) VALUES (s.id, s.step, instead, true, happened)
    ON CONFLICT (submission_id, step, person_id) DO UPDATE SET open = true, since = happened;
  PERFORM slate.tell('submission:' || s.id);
  RETURN true;
END $$;
--> statement-breakpoint
REVOKE EXECUTE ON FUNCTION slate.ask_because_late(uuid, uuid, uuid, timestamptz) FROM PUBLIC;
