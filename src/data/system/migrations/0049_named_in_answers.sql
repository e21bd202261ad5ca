ALTER TABLE "slate"."submission" ADD COLUMN "named" jsonb DEFAULT '{}'::jsonb NOT NULL;
--> statement-breakpoint
-- Whether a step asks somebody: by name, by a group, as the sender's manager, or because the answers name them.
CREATE FUNCTION slate.asks_by_itself(step jsonb, who uuid, sender uuid, names jsonb) RETURNS boolean LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT (step->'people') ? who::text
    OR coalesce((names->(step->>'id')) ? who::text, false)
    OR coalesce(step->'manager' = 'true'::jsonb AND who = (SELECT manager_id FROM person WHERE id = sender), false)
    OR EXISTS (SELECT 1 FROM jsonb_array_elements_text(coalesce(step->'groups', '[]'::jsonb)) AS named WHERE named::uuid = ANY (slate.groups_of(who)))
$$;
--> statement-breakpoint
-- The same, and whoever is asked where nobody else can be.
CREATE FUNCTION slate.is_asked_by(step jsonb, who uuid, sender uuid, names jsonb) RETURNS boolean LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT slate.asks_by_itself(step, who, sender, names)
    OR (coalesce(step->>'fallback' = who::text, false)
      AND NOT EXISTS (SELECT 1 FROM person p WHERE p.ended_at IS NULL AND p.id <> sender AND slate.asks_by_itself(step, p.id, sender, names)))
$$;
--> statement-breakpoint
-- Whether all a step would ask have approved since it was sent, whoever does so now counted in, and it is not to ask them again.
CREATE FUNCTION slate.is_settled(of_submission uuid, step jsonb, sender uuid, names jsonb) RETURNS boolean LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE asked uuid[];
BEGIN
  IF step->'unlessApproved' IS DISTINCT FROM 'true'::jsonb THEN RETURN false; END IF;
  asked := ARRAY(SELECT p.id FROM person p WHERE p.ended_at IS NULL AND p.id <> sender AND slate.is_asked_by(step, p.id, sender, names));
  RETURN cardinality(asked) > 0 AND asked <@ (ARRAY(SELECT e.by_id FROM submission_event e WHERE e.submission_id = of_submission AND e.kind = 'approve'
    AND e.position > (SELECT coalesce(max(position), 0) FROM submission_event WHERE submission_id = of_submission AND kind = 'send')) || slate.asking());
END $$;
--> statement-breakpoint
DROP FUNCTION slate.move_submission(uuid, text, text, integer, uuid[], text, text, jsonb, timestamptz, text[]);
--> statement-breakpoint
-- As before, with whom the answers name: told when it is sent, and kept with it.
CREATE FUNCTION slate.move_submission(of_submission uuid, event text, to_state text, to_step integer, people uuid[], said text, given_number text, given_answers jsonb, happened timestamptz, skips text[] DEFAULT '{}', names jsonb DEFAULT '{}')
RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE me uuid := slate.asking(); s submission; steps jsonb; as_whom uuid; is_asked boolean; wanted text; others uuid[]; enough jsonb; stays boolean := false; left_out text[]; next_step integer; names_now jsonb;
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
  SELECT min(at) - 1 INTO next_step FROM jsonb_array_elements(steps) WITH ORDINALITY AS asked (step, at)
    WHERE at - 1 > CASE WHEN event = 'send' THEN -1 ELSE s.step END AND NOT step->>'id' = ANY (left_out) AND (event = 'send' OR NOT slate.is_settled(s.id, step, s.sender_id, names_now));
  as_whom := slate.seat(s.id);
  is_asked := as_whom IS NOT NULL;
  IF event = 'approve' AND is_asked THEN
    others := ARRAY(SELECT person_id FROM ask WHERE submission_id = s.id AND open AND person_id <> as_whom);
    enough := steps->s.step->'decide';
    stays := cardinality(others) > 0 AND enough IS NOT NULL AND (enough = '"all"'::jsonb OR slate.approvals(s.id) + 1 < (enough #>> '{}')::int);
  END IF;
  wanted := CASE
    WHEN event = 'send' AND me = s.sender_id AND s.state IN ('draft', 'sent-back') THEN coalesce('waiting ' || next_step, 'kept')
    WHEN stays THEN 'waiting ' || s.step
    WHEN event = 'approve' AND is_asked THEN coalesce('waiting ' || next_step, 'kept')
    WHEN event = 'send-back' AND is_asked THEN 'sent-back'
    WHEN event = 'decline' AND is_asked THEN 'declined'
    WHEN event = 'withdraw' AND me = s.sender_id AND s.state IN ('waiting', 'sent-back') THEN 'withdrawn' END;
  IF wanted IS DISTINCT FROM to_state || coalesce(' ' || to_step, '') THEN RAISE EXCEPTION 'a submission does not move like this' USING ERRCODE = 'TS010'; END IF;
  IF to_state = 'waiting' AND NOT stays AND (cardinality(people) = 0 OR s.sender_id = ANY (people)
    OR EXISTS (SELECT 1 FROM unnest(people) AS one WHERE NOT slate.is_asked_by(steps->to_step, one, s.sender_id, names_now))) THEN
    RAISE EXCEPTION 'these people are not those of the step' USING ERRCODE = 'TS010';
  END IF;
  UPDATE ask SET open = false WHERE submission_id = s.id AND open AND (person_id = as_whom OR NOT stays);
  IF as_whom <> me THEN PERFORM slate.note_stand_in(s.id, s.step, happened); END IF;
  UPDATE submission SET state = to_state, step = to_step, skipped = left_out, named = names_now, version = s.version + 1, updated_at = happened,
    number = coalesce(s.number, CASE WHEN event = 'send' THEN given_number END),
    answers = CASE WHEN event = 'send' THEN given_answers ELSE s.answers END,
    sent_answers = CASE WHEN event = 'send' THEN given_answers ELSE s.sent_answers END,
    earlier_answers = CASE WHEN event = 'send' THEN s.sent_answers ELSE s.earlier_answers END,
    sent_at = CASE WHEN event = 'send' THEN happened ELSE s.sent_at END WHERE id = s.id;
  INSERT INTO submission_event (submission_id, position, kind, step, by_id, for_id, word, answers, at)
    SELECT s.id, coalesce(max(position), 0) + 1, event, CASE WHEN event IN ('send', 'withdraw') THEN NULL ELSE s.step END, me, nullif(as_whom, me), said, CASE WHEN event = 'send' THEN given_answers END, happened FROM submission_event WHERE submission_id = s.id;
  IF to_state = 'waiting' AND NOT stays THEN
    INSERT INTO ask (submission_id, step, person_id, open, since) SELECT s.id, to_step, one, true, happened FROM unnest(people) AS one
      ON CONFLICT (submission_id, step, person_id) DO UPDATE SET open = true, since = happened;
  END IF;
END $$;
--> statement-breakpoint
DROP FUNCTION slate.is_asked_by(jsonb, uuid, uuid);
