-- One who declines may count as one against: it waits on for the others while enough are left who can approve. Whoever has declined a step has had their word in it.
CREATE OR REPLACE FUNCTION slate.seat_at(of_submission uuid, OUT who uuid, OUT at_step integer) LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT a.person_id, a.step FROM ask a JOIN submission s ON s.id = a.submission_id
  WHERE s.id = of_submission AND s.state = 'waiting' AND a.open AND s.sender_id <> slate.asking() AND a.person_id = ANY (slate.asked_as())
    AND (a.person_id = slate.asking() OR NOT EXISTS (SELECT 1 FROM submission_event e WHERE e.submission_id = s.id AND e.kind IN ('approve', 'decline') AND e.step = a.step AND e.by_id = slate.asking()
      AND e.position > slate.begun_with(s.id, a.step)))
  ORDER BY a.person_id <> slate.asking(), a.step, a.since, a.person_id LIMIT 1
$$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.hand_over(of_submission uuid, to_person uuid, said text, happened timestamptz) RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE me uuid := slate.asking(); s submission; as_whom uuid; here integer;
BEGIN
  SELECT * INTO s FROM submission WHERE id = of_submission FOR UPDATE;
  SELECT who, at_step INTO as_whom, here FROM slate.seat_at(s.id);
  IF as_whom IS NULL OR to_person = s.sender_id OR NOT EXISTS (SELECT 1 FROM person WHERE id = to_person AND ended_at IS NULL)
    OR EXISTS (SELECT 1 FROM ask WHERE submission_id = s.id AND step = here AND open AND person_id = to_person)
    OR EXISTS (SELECT 1 FROM submission_event WHERE submission_id = s.id AND kind IN ('approve', 'decline') AND step = here AND by_id = to_person
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
CREATE OR REPLACE FUNCTION slate.ask_because_late(of_submission uuid, at_step integer, who_is_late uuid, instead uuid, happened timestamptz) RETURNS boolean LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
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
      AND (e.kind = 'late' AND (e.for_id = who_is_late OR e.to_id = who_is_late) OR e.kind IN ('approve', 'decline') AND e.by_id = instead)) THEN
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
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.move_case(of_submission uuid, from_step integer, goes_to integer, to_person uuid, said text, happened timestamptz) RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE me uuid := slate.asking(); s submission; steps jsonb;
BEGIN
  PERFORM slate.only_administrators();
  SELECT * INTO s FROM submission WHERE id = of_submission AND state = 'waiting' FOR UPDATE;
  SELECT coalesce(design->'steps', '[]'::jsonb) INTO steps FROM form_release WHERE id = s.release_id;
  IF s.id IS NULL OR said !~ '\S' OR to_person IN (s.sender_id, me) OR goes_to < 0 OR goes_to >= jsonb_array_length(steps)
    OR NOT EXISTS (SELECT 1 FROM person WHERE id = to_person AND ended_at IS NULL)
    OR NOT (from_step = s.step OR EXISTS (SELECT 1 FROM ask WHERE submission_id = s.id AND step = from_step AND open))
    OR (goes_to = from_step AND EXISTS (SELECT 1 FROM submission_event WHERE submission_id = s.id AND kind IN ('approve', 'decline') AND step = from_step AND by_id = to_person AND position > slate.begun_with(s.id, from_step))) THEN
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
CREATE OR REPLACE FUNCTION slate.notice_of_event() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE s submission; sent integer;
BEGIN
  SELECT * INTO s FROM submission WHERE id = NEW.submission_id;
  SELECT coalesce(max(position), 0) INTO sent FROM submission_event WHERE submission_id = s.id AND kind = 'send';
  PERFORM slate.put_notice(one, s.id, what, NEW.position, NULL, NEW.at) FROM (
    SELECT s.sender_id, 'kept' WHERE NEW.kind = 'approve' AND s.state = 'kept'
    UNION SELECT s.sender_id, 'sent-back' WHERE NEW.kind = 'send-back'
    UNION SELECT s.sender_id, 'declined' WHERE NEW.kind = 'decline' AND s.state = 'declined'
    UNION SELECT s.sender_id, 'corrected' WHERE NEW.kind = 'correct'
    UNION SELECT n.person_id, 'withdrawn' FROM notice n WHERE NEW.kind = 'withdraw' AND n.submission_id = s.id AND n.kind = 'asked' AND n.position >= sent
      AND NOT EXISTS (SELECT 1 FROM submission_event e WHERE e.submission_id = s.id AND e.position > n.position AND e.by_id = n.person_id AND e.kind IN ('approve', 'hand-over'))
    UNION SELECT s.sender_id, 'remark' WHERE NEW.kind = 'remark'
    UNION SELECT a.person_id, 'remark' FROM ask a WHERE NEW.kind = 'remark' AND a.submission_id = s.id AND a.open
    UNION SELECT e.by_id, 'remark' FROM submission_event e WHERE NEW.kind = 'remark' AND e.submission_id = s.id AND e.kind = 'remark') AS told (one, what)
  WHERE one <> NEW.by_id;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.move_submission(of_submission uuid, event text, to_state text, to_step integer, people uuid[], said text, given_number text, given_answers jsonb, happened timestamptz, skips text[] DEFAULT '{}', names jsonb DEFAULT '{}', beside jsonb DEFAULT '{}', rules jsonb DEFAULT '{}')
RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE me uuid := slate.asking(); s submission; steps jsonb; as_whom uuid; here integer; is_asked boolean; wanted text; others uuid[]; enough jsonb; stays boolean := false;
  rest integer; left_out text[]; next_step integer; names_now jsonb; begins boolean; asks jsonb; whole jsonb; rules_now jsonb;
BEGIN
  SELECT * INTO s FROM submission WHERE id = of_submission FOR UPDATE;
  SELECT design INTO whole FROM form_release WHERE id = s.release_id;
  IF event = 'send' AND NOT slate.rules_may_say(whole, rules) THEN RAISE EXCEPTION 'the rules of this form do not say that' USING ERRCODE = 'TS010'; END IF;
  rules_now := CASE WHEN event = 'send' THEN rules ELSE s.ruled END;
  steps := slate.steps_ruled(whole, rules_now);
  IF event = 'send' AND EXISTS (SELECT 1 FROM unnest(skips) AS one WHERE NOT EXISTS (SELECT 1 FROM jsonb_array_elements(steps) AS step WHERE step->>'id' = one AND step ?| ARRAY['when', 'nobody'])) THEN
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
  others := ARRAY(SELECT person_id FROM ask WHERE submission_id = s.id AND open AND step = here AND person_id <> as_whom);
  enough := steps->here->'decide';
  IF event = 'decline' AND is_asked AND steps->here->>'declines' = 'against' AND enough IS DISTINCT FROM '"all"'::jsonb THEN
    stays := cardinality(others) > 0 AND slate.approvals(s.id, here) + cardinality(others) >= coalesce((enough #>> '{}')::int, 1);
  END IF;
  IF event = 'approve' AND is_asked THEN
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
  UPDATE submission SET state = to_state, step = to_step, skipped = left_out, named = names_now, ruled = rules_now, days = CASE WHEN event = 'send' THEN slate.days_ruled(whole, rules) ELSE s.days END, version = s.version + 1, updated_at = happened,
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
