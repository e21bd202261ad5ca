ALTER TABLE "slate"."submission_event" ADD COLUMN "to_step" integer;
--> statement-breakpoint
-- The first of the steps that are asked at the same time as one.
CREATE FUNCTION slate.round_start(steps jsonb, at_step integer) RETURNS integer LANGUAGE sql IMMUTABLE AS $$
  SELECT coalesce(max(i), 0) FROM generate_series(0, at_step) AS i WHERE steps->i->'beside' IS DISTINCT FROM 'true'::jsonb
$$;
--> statement-breakpoint
-- The event with which a step was begun the last time, or those before it: it was sent, or sent back to it or to one before.
CREATE FUNCTION slate.begun_with(of_submission uuid, at_step integer) RETURNS integer LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT coalesce(max(position), 0) FROM submission_event WHERE submission_id = of_submission AND (kind = 'send' OR (kind = 'return' AND to_step <= at_step))
$$;
--> statement-breakpoint
-- The last of the steps that are asked at the same time as one.
CREATE FUNCTION slate.round_end(steps jsonb, at_step integer) RETURNS integer LANGUAGE sql IMMUTABLE AS $$
  SELECT coalesce(min(i) - 1, greatest(at_step, jsonb_array_length(steps) - 1)) FROM generate_series(at_step + 1, jsonb_array_length(steps) - 1) AS i
  WHERE steps->i->'beside' IS DISTINCT FROM 'true'::jsonb
$$;
--> statement-breakpoint
-- As whom whoever asks may decide, and which step: as themselves before anybody they stand in for, the first step before the others. Nobody decides the same step twice.
CREATE FUNCTION slate.seat_at(of_submission uuid, OUT who uuid, OUT at_step integer) LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT a.person_id, a.step FROM ask a JOIN submission s ON s.id = a.submission_id
  WHERE s.id = of_submission AND s.state = 'waiting' AND a.open AND s.sender_id <> slate.asking() AND a.person_id = ANY (slate.asked_as())
    AND (a.person_id = slate.asking() OR NOT EXISTS (SELECT 1 FROM submission_event e WHERE e.submission_id = s.id AND e.kind = 'approve' AND e.step = a.step AND e.by_id = slate.asking()
      AND e.position > slate.begun_with(s.id, a.step)))
  ORDER BY a.person_id <> slate.asking(), a.step, a.since, a.person_id LIMIT 1
$$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.seat(of_submission uuid) RETURNS uuid LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT who FROM slate.seat_at(of_submission)
$$;
--> statement-breakpoint
DROP FUNCTION slate.approvals(uuid);
--> statement-breakpoint
-- How many have approved a step since it was begun the last time.
CREATE FUNCTION slate.approvals(of_submission uuid, at_step integer) RETURNS integer LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT count(*)::int FROM submission_event e WHERE e.submission_id = of_submission AND e.kind = 'approve' AND e.step = at_step
    AND e.position > slate.begun_with(of_submission, at_step)
$$;
--> statement-breakpoint
DROP FUNCTION slate.move_submission(uuid, text, text, integer, uuid[], text, text, jsonb, timestamptz, text[], jsonb);
--> statement-breakpoint
-- As before, and: steps that are asked at the same time. A decision is of one of them; it goes on once each is done. `beside` says whom the others ask, by their places.
-- `return` goes to an earlier step that is asked about it, alone; those after it follow again.
CREATE FUNCTION slate.move_submission(of_submission uuid, event text, to_state text, to_step integer, people uuid[], said text, given_number text, given_answers jsonb, happened timestamptz, skips text[] DEFAULT '{}', names jsonb DEFAULT '{}', beside jsonb DEFAULT '{}')
RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE me uuid := slate.asking(); s submission; steps jsonb; as_whom uuid; here integer; is_asked boolean; wanted text; others uuid[]; enough jsonb; stays boolean := false;
  rest integer; left_out text[]; next_step integer; names_now jsonb; begins boolean; asks jsonb;
BEGIN
  SELECT * INTO s FROM submission WHERE id = of_submission FOR UPDATE;
  SELECT coalesce(design->'steps', '[]'::jsonb) INTO steps FROM form_release WHERE id = s.release_id;
  IF event = 'send' AND EXISTS (SELECT 1 FROM unnest(skips) AS one WHERE NOT EXISTS (SELECT 1 FROM jsonb_array_elements(steps) AS step WHERE step->>'id' = one AND step ? 'when')) THEN
    RAISE EXCEPTION 'this step is always asked' USING ERRCODE = 'TS010';
  END IF;
  IF event = 'send' AND EXISTS (SELECT 1 FROM jsonb_object_keys(names) AS one WHERE NOT EXISTS (SELECT 1 FROM jsonb_array_elements(steps) AS step WHERE step->>'id' = one AND step ? 'named')) THEN
    RAISE EXCEPTION 'this step asks nobody by an answer' USING ERRCODE = 'TS010';
  END IF;
  names_now := CASE WHEN event = 'send' THEN names ELSE s.named END;
  left_out := CASE WHEN event = 'send' THEN skips ELSE s.skipped END;
  SELECT who, at_step INTO as_whom, here FROM slate.seat_at(s.id);
  is_asked := as_whom IS NOT NULL;
  SELECT min(at) - 1 INTO next_step FROM jsonb_array_elements(steps) WITH ORDINALITY AS asked (step, at)
    WHERE at - 1 > CASE WHEN event = 'send' THEN -1 ELSE slate.round_end(steps, here) END AND NOT step->>'id' = ANY (left_out) AND (event = 'send' OR NOT slate.is_settled(s.id, step, s.sender_id, names_now));
  IF event = 'approve' AND is_asked THEN
    others := ARRAY(SELECT person_id FROM ask WHERE submission_id = s.id AND open AND step = here AND person_id <> as_whom);
    enough := steps->here->'decide';
    stays := cardinality(others) > 0 AND enough IS NOT NULL AND (enough = '"all"'::jsonb OR slate.approvals(s.id, here) + 1 < (enough #>> '{}')::int);
    rest := (SELECT min(step) FROM ask WHERE submission_id = s.id AND open AND step <> here);
  END IF;
  wanted := CASE
    WHEN event = 'send' AND me = s.sender_id AND s.state IN ('draft', 'sent-back') THEN coalesce('waiting ' || next_step, 'kept')
    WHEN stays THEN 'waiting ' || s.step
    WHEN event = 'approve' AND is_asked THEN coalesce('waiting ' || coalesce(rest, next_step), 'kept')
    WHEN event = 'return' AND is_asked AND to_step >= 0 AND to_step < slate.round_start(steps, here) AND NOT steps->to_step->>'id' = ANY (left_out) THEN 'waiting ' || to_step
    WHEN event = 'send-back' AND is_asked THEN 'sent-back'
    WHEN event = 'decline' AND is_asked THEN 'declined'
    WHEN event = 'withdraw' AND me = s.sender_id AND s.state IN ('waiting', 'sent-back') THEN 'withdrawn' END;
  IF wanted IS DISTINCT FROM to_state || coalesce(' ' || to_step, '') THEN RAISE EXCEPTION 'a submission does not move like this' USING ERRCODE = 'TS010'; END IF;
  begins := to_state = 'waiting' AND NOT stays AND rest IS NULL;
  asks := CASE WHEN begins THEN jsonb_build_object(to_step::text, to_jsonb(people)) || beside ELSE '{}'::jsonb END;
  IF begins AND (ARRAY(SELECT one::int FROM jsonb_object_keys(asks) AS one ORDER BY 1) IS DISTINCT FROM ARRAY(
      SELECT at - 1 FROM jsonb_array_elements(steps) WITH ORDINALITY AS asked (step, at) WHERE at - 1 BETWEEN to_step AND CASE WHEN event = 'return' THEN to_step ELSE slate.round_end(steps, to_step) END
        AND NOT step->>'id' = ANY (left_out) AND (event IN ('send', 'return') OR NOT slate.is_settled(s.id, step, s.sender_id, names_now)) ORDER BY 1)::int[]
    OR EXISTS (SELECT 1 FROM jsonb_each(asks) AS a (at, whom) WHERE jsonb_array_length(whom) = 0 OR whom ? s.sender_id::text
      OR EXISTS (SELECT 1 FROM jsonb_array_elements_text(whom) AS one WHERE NOT slate.is_asked_by(steps->a.at::int, one::uuid, s.sender_id, names_now)))) THEN
    RAISE EXCEPTION 'these people are not those of the step' USING ERRCODE = 'TS010';
  END IF;
  UPDATE ask SET open = false WHERE submission_id = s.id AND open AND (NOT (stays OR rest IS NOT NULL) OR (step = here AND (person_id = as_whom OR NOT stays)));
  IF as_whom <> me THEN PERFORM slate.note_stand_in(s.id, here, happened); END IF;
  UPDATE submission SET state = to_state, step = to_step, skipped = left_out, named = names_now, version = s.version + 1, updated_at = happened,
    number = coalesce(s.number, CASE WHEN event = 'send' THEN given_number END),
    answers = CASE WHEN event = 'send' THEN given_answers ELSE s.answers END,
    sent_answers = CASE WHEN event = 'send' THEN given_answers ELSE s.sent_answers END,
    earlier_answers = CASE WHEN event = 'send' THEN s.sent_answers ELSE s.earlier_answers END,
    sent_at = CASE WHEN event = 'send' THEN happened ELSE s.sent_at END WHERE id = s.id;
  INSERT INTO submission_event (submission_id, position, kind, step, to_step, by_id, for_id, word, answers, at)
    SELECT s.id, coalesce(max(position), 0) + 1, event, CASE WHEN event IN ('send', 'withdraw') THEN NULL ELSE here END, CASE WHEN event = 'return' THEN move_submission.to_step END, me, nullif(as_whom, me), said, CASE WHEN event = 'send' THEN given_answers END, happened FROM submission_event WHERE submission_id = s.id;
  INSERT INTO ask (submission_id, step, person_id, open, since)
    SELECT DISTINCT s.id, at::int, one::uuid, true, happened FROM jsonb_each(asks) AS a (at, whom), jsonb_array_elements_text(whom) AS one
    ON CONFLICT (submission_id, step, person_id) DO UPDATE SET open = true, since = happened;
END $$;
--> statement-breakpoint
-- As before, of the step that is decided by whoever hands it over.
CREATE OR REPLACE FUNCTION slate.hand_over(of_submission uuid, to_person uuid, said text, happened timestamptz) RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE me uuid := slate.asking(); s submission; as_whom uuid; here integer;
BEGIN
  SELECT * INTO s FROM submission WHERE id = of_submission FOR UPDATE;
  SELECT who, at_step INTO as_whom, here FROM slate.seat_at(s.id);
  IF as_whom IS NULL OR to_person = s.sender_id OR NOT EXISTS (SELECT 1 FROM person WHERE id = to_person AND ended_at IS NULL)
    OR EXISTS (SELECT 1 FROM ask WHERE submission_id = s.id AND step = here AND open AND person_id = to_person)
    OR EXISTS (SELECT 1 FROM submission_event WHERE submission_id = s.id AND kind = 'approve' AND step = here AND by_id = to_person
      AND position > slate.begun_with(s.id, here)) THEN
    RAISE EXCEPTION 'this cannot be handed over like this' USING ERRCODE = 'TS010';
  END IF;
  UPDATE ask SET open = false WHERE submission_id = s.id AND open AND step = here AND person_id = as_whom;
  IF as_whom <> me THEN PERFORM slate.note_stand_in(s.id, here, happened); END IF;
  UPDATE submission SET version = s.version + 1, updated_at = happened WHERE id = s.id;
  INSERT INTO submission_event (submission_id, position, kind, step, by_id, for_id, to_id, word, at)
    SELECT s.id, coalesce(max(position), 0) + 1, 'hand-over', here, me, nullif(as_whom, me), to_person, said, happened FROM submission_event WHERE submission_id = s.id;
  INSERT INTO ask (submission_id, step, person_id, open, since) VALUES (s.id, here, to_person, true, happened)
    ON CONFLICT (submission_id, step, person_id) DO UPDATE SET open = true, since = happened;
  PERFORM slate.tell('submission:' || s.id);
END $$;
--> statement-breakpoint
DROP FUNCTION slate.ask_because_late(uuid, uuid, uuid, timestamptz);
--> statement-breakpoint
-- As before, of one of the steps it waits at.
CREATE FUNCTION slate.ask_because_late(of_submission uuid, at_step integer, who_is_late uuid, instead uuid, happened timestamptz) RETURNS boolean LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE s submission; says jsonb; sent integer;
BEGIN
  SELECT * INTO s FROM submission WHERE id = of_submission AND state = 'waiting' FOR UPDATE;
  IF NOT FOUND THEN RETURN false; END IF;
  SELECT design->'steps'->at_step INTO says FROM form_release WHERE id = s.release_id;
  sent := slate.begun_with(s.id, at_step);
  IF NOT coalesce(says->>'late' = instead::text OR (says->>'late' = 'manager' AND instead = (SELECT manager_id FROM person WHERE id = who_is_late)), false)
    OR instead IN (s.sender_id, who_is_late)
    OR NOT EXISTS (SELECT 1 FROM person WHERE id = instead AND ended_at IS NULL)
    OR NOT EXISTS (SELECT 1 FROM ask a WHERE a.submission_id = s.id AND a.step = at_step AND a.open AND a.person_id = who_is_late)
    OR EXISTS (SELECT 1 FROM ask a WHERE a.submission_id = s.id AND a.step = at_step AND a.open AND a.person_id = instead)
    OR EXISTS (SELECT 1 FROM submission_event e WHERE e.submission_id = s.id AND e.step = at_step AND e.position > sent
      AND (e.kind = 'late' AND (e.for_id = who_is_late OR e.to_id = who_is_late) OR e.kind = 'approve' AND e.by_id = instead)) THEN
    RETURN false;
  END IF;
  INSERT INTO submission_event (submission_id, position, kind, step, by_id, for_id, to_id, word, at)
    SELECT s.id, max(position) + 1, 'late', at_step, instead, who_is_late, instead, '', happened FROM submission_event WHERE submission_id = s.id;
  IF says->'decide' = '"all"'::jsonb THEN UPDATE ask SET open = false WHERE submission_id = s.id AND step = at_step AND person_id = who_is_late; END IF;
  INSERT INTO ask (submission_id, step, person_id, open, since) VALUES (s.id, at_step, instead, true, happened)
    ON CONFLICT (submission_id, step, person_id) DO UPDATE SET open = true, since = happened;
  PERFORM slate.tell('submission:' || s.id);
  RETURN true;
END $$;
--> statement-breakpoint
REVOKE EXECUTE ON FUNCTION slate.ask_because_late(uuid, integer, uuid, uuid, timestamptz) FROM PUBLIC;
