CREATE INDEX "ask_waits" ON "slate"."ask" USING btree ("submission_id") WHERE "slate"."ask"."open";
--> statement-breakpoint
-- As before; an administrator may have moved it there as well.
CREATE OR REPLACE FUNCTION slate.begun_with(of_submission uuid, at_step integer) RETURNS integer LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT coalesce(max(position), 0) FROM submission_event WHERE submission_id = of_submission AND (kind = 'send' OR (kind IN ('return', 'move') AND to_step <= at_step))
$$;
--> statement-breakpoint
-- Whether nobody who is here and may decide is asked at a step that something waits at.
CREATE FUNCTION slate.is_stuck(of_submission uuid, at_step integer, sender uuid) RETURNS boolean LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT NOT EXISTS (SELECT 1 FROM ask a JOIN person p ON p.id = a.person_id WHERE a.submission_id = of_submission AND a.step = at_step AND a.open AND p.ended_at IS NULL AND p.id <> sender)
$$;
--> statement-breakpoint
-- What waits, for administrators: where and for whom, not what was answered. What nobody can decide comes first, then what has waited longest.
CREATE FUNCTION slate.waiting_cases(said text, most integer) RETURNS TABLE (id uuid, number text, title text, sender uuid, labels jsonb, step integer, asked uuid[], since timestamptz, stuck boolean)
LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  PERFORM slate.only_administrators();
  RETURN QUERY SELECT s.id, s.number, r.design->>'title', s.sender_id, (SELECT jsonb_agg(one->>'label' ORDER BY place) FROM jsonb_array_elements(r.design->'steps') WITH ORDINALITY AS listed (one, place)),
      w.step, w.asked, coalesce(w.since, s.sent_at), w.stuck
    FROM submission s JOIN form_release r ON r.id = s.release_id JOIN person p ON p.id = s.sender_id CROSS JOIN LATERAL (
      SELECT coalesce(a.step, s.step) AS step, coalesce(array_agg(a.person_id ORDER BY a.since) FILTER (WHERE a.open), '{}') AS asked, min(a.since) FILTER (WHERE a.open) AS since, slate.is_stuck(s.id, coalesce(a.step, s.step), s.sender_id) AS stuck
      FROM (SELECT 1) AS one LEFT JOIN ask a ON a.submission_id = s.id AND a.open GROUP BY coalesce(a.step, s.step)) AS w
    WHERE s.state = 'waiting' AND (said = '' OR strpos(slate.folded(s.number || ' ' || (r.design->>'title') || ' ' || p.name), slate.folded(said)) > 0)
    ORDER BY w.stuck DESC, 8, s.id LIMIT most;
END $$;
--> statement-breakpoint
-- How much waits for nobody, for administrators; for others, nothing is said.
CREATE FUNCTION slate.count_stuck() RETURNS integer LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT CASE WHEN slate.administers() THEN (SELECT count(*)::int FROM submission s WHERE s.state = 'waiting'
    AND (NOT EXISTS (SELECT 1 FROM ask a WHERE a.submission_id = s.id AND a.open) OR EXISTS (SELECT 1 FROM ask a WHERE a.submission_id = s.id AND a.open AND slate.is_stuck(s.id, a.step, s.sender_id)))) ELSE 0 END
$$;
--> statement-breakpoint
-- An administrator has somebody else decide a step, or takes it to another one, with a reason that stands in the trail. Nobody is asked of their own, and no administrator moves to themselves what they may not see.
CREATE FUNCTION slate.move_case(of_submission uuid, from_step integer, goes_to integer, to_person uuid, said text, happened timestamptz) RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE me uuid := slate.asking(); s submission; steps jsonb;
BEGIN
  PERFORM slate.only_administrators();
  SELECT * INTO s FROM submission WHERE id = of_submission AND state = 'waiting' FOR UPDATE;
  SELECT coalesce(design->'steps', '[]'::jsonb) INTO steps FROM form_release WHERE id = s.release_id;
  IF s.id IS NULL OR said !~ '\S' OR to_person IN (s.sender_id, me) OR goes_to < 0 OR goes_to >= jsonb_array_length(steps)
    OR NOT EXISTS (SELECT 1 FROM person WHERE id = to_person AND ended_at IS NULL)
    OR NOT (from_step = s.step OR EXISTS (SELECT 1 FROM ask WHERE submission_id = s.id AND step = from_step AND open))
    OR (goes_to = from_step AND EXISTS (SELECT 1 FROM submission_event WHERE submission_id = s.id AND kind = 'approve' AND step = from_step AND by_id = to_person AND position > slate.begun_with(s.id, from_step))) THEN
    RAISE EXCEPTION 'this cannot be moved like this' USING ERRCODE = 'TS010';
  END IF;
  UPDATE ask SET open = false WHERE submission_id = s.id AND open AND (step = from_step OR goes_to <> from_step);
  UPDATE submission SET step = CASE WHEN goes_to = from_step THEN s.step ELSE goes_to END, version = s.version + 1, updated_at = happened WHERE id = s.id;
  INSERT INTO submission_event (submission_id, position, kind, step, to_step, by_id, to_id, word, at)
    SELECT s.id, coalesce(max(position), 0) + 1, 'move', from_step, nullif(goes_to, from_step), me, to_person, said, happened FROM submission_event WHERE submission_id = s.id;
  INSERT INTO ask (submission_id, step, person_id, open, since) VALUES (s.id, goes_to, to_person, true, happened)
    ON CONFLICT (submission_id, step, person_id) DO UPDATE SET open = true, since = happened;
  PERFORM slate.tell('submission:' || s.id);
END $$;
--> statement-breakpoint
-- What moving one needs to know of it, for administrators; it stays as it is until they are done.
CREATE FUNCTION slate.case_in_hand(of_submission uuid) RETURNS jsonb LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE s submission;
BEGIN
  PERFORM slate.only_administrators();
  SELECT * INTO s FROM submission WHERE id = of_submission AND number IS NOT NULL FOR UPDATE;
  IF s.id IS NULL THEN RETURN NULL; END IF;
  RETURN jsonb_build_object('state', s.state, 'sender', s.sender_id, 'step', s.step, 'steps', (SELECT coalesce(design->'steps', '[]'::jsonb) FROM form_release WHERE id = s.release_id),
    'open', (SELECT coalesce(jsonb_agg(jsonb_build_object('step', w.step, 'asked', w.asked) ORDER BY w.step), '[]'::jsonb) FROM (
      SELECT coalesce(a.step, s.step) AS step, coalesce(array_agg(a.person_id) FILTER (WHERE a.open), '{}') AS asked
      FROM (SELECT 1) AS one LEFT JOIN ask a ON a.submission_id = s.id AND a.open GROUP BY coalesce(a.step, s.step)) AS w WHERE w.step IS NOT NULL),
    'events', (SELECT coalesce(jsonb_agg(jsonb_build_object('kind', e.kind, 'step', e.step, 'toStep', e.to_step, 'byId', e.by_id) ORDER BY e.position), '[]'::jsonb) FROM submission_event e WHERE e.submission_id = s.id));
END $$;
