ALTER TABLE "slate"."submission" ADD COLUMN "ruled" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "slate"."submission" ADD COLUMN "days" jsonb DEFAULT '{}'::jsonb NOT NULL;
--> statement-breakpoint
-- What a row of a table of rules gives a step.
CREATE FUNCTION slate.gives_step(rule_row jsonb, step_id text) RETURNS jsonb LANGUAGE sql IMMUTABLE AS $$
  SELECT coalesce((SELECT one FROM jsonb_array_elements(rule_row->'gives') AS one WHERE one->>'step' = step_id LIMIT 1), '{"people": []}'::jsonb)
$$;
--> statement-breakpoint
-- The rows that count, with the table they are of. `rules` is as it is kept: the ids of rows by the id of their table.
CREATE FUNCTION slate.rows_ruled(design jsonb, rules jsonb) RETURNS TABLE (of_table jsonb, rule_row jsonb) LANGUAGE sql IMMUTABLE AS $$
  SELECT t, r FROM jsonb_array_elements(coalesce(design->'rules', '[]'::jsonb)) AS t, jsonb_array_elements(t->'rows') AS r WHERE coalesce((rules->(t->>'id')) ? (r->>'id'), false)
$$;
--> statement-breakpoint
-- Whether these may be the rows that count: rows of the tables of this form, and of each table one at most where no more than one may count.
CREATE FUNCTION slate.rules_may_say(design jsonb, rules jsonb) RETURNS boolean LANGUAGE sql IMMUTABLE AS $$
  SELECT NOT EXISTS (SELECT 1 FROM jsonb_each(rules) AS told (of, which) WHERE jsonb_array_length(which) <> (SELECT count(*) FROM slate.rows_ruled(design, rules) WHERE of_table->>'id' = of)
    OR NOT EXISTS (SELECT 1 FROM jsonb_array_elements(coalesce(design->'rules', '[]'::jsonb)) AS t WHERE t->>'id' = of AND (t->>'hit' IN ('R', 'C') OR jsonb_array_length(which) <= 1)))
$$;
--> statement-breakpoint
-- The steps of a form as its rules make them ask: whom the rows that count say, all of them together. A step that one of its tables does not decide about asks nobody by itself;
-- `nobody` is there where all rows that count say that it is not asked.
CREATE FUNCTION slate.steps_ruled(design jsonb, rules jsonb) RETURNS jsonb LANGUAGE sql IMMUTABLE AS $$
  SELECT CASE WHEN NOT coalesce(design ? 'rules', false) THEN coalesce(design->'steps', '[]'::jsonb) ELSE (
    SELECT coalesce(jsonb_agg(CASE WHEN said.tables = 0 THEN step
        ELSE (step - ARRAY['people', 'groups', 'manager', 'named', 'nobody']) || CASE WHEN said.silent THEN '{"people": []}'::jsonb ELSE
          jsonb_build_object('people', said.people, 'groups', said.groups)
          || CASE WHEN said.manager THEN '{"manager": true}'::jsonb ELSE '{}'::jsonb END || CASE WHEN said.named THEN '{"named": ""}'::jsonb ELSE '{}'::jsonb END
          || CASE WHEN said.nobody THEN '{"nobody": true}'::jsonb ELSE '{}'::jsonb END END END ORDER BY place), '[]'::jsonb)
    FROM jsonb_array_elements(coalesce(design->'steps', '[]'::jsonb)) WITH ORDINALITY AS listed (step, place) CROSS JOIN LATERAL (
      SELECT count(DISTINCT t->>'id') AS tables, bool_or(g IS NULL) AS silent, bool_or(g->'manager' = 'true'::jsonb) AS manager, bool_or(g ? 'named') AS named, bool_and(g->'nobody' = 'true'::jsonb) AS nobody,
        coalesce(jsonb_agg(DISTINCT one) FILTER (WHERE is_person), '[]'::jsonb) AS people, coalesce(jsonb_agg(DISTINCT one) FILTER (WHERE NOT is_person), '[]'::jsonb) AS groups
      FROM jsonb_array_elements(design->'rules') AS t LEFT JOIN LATERAL (
        SELECT slate.gives_step(c.rule_row, step->>'id') AS g FROM slate.rows_ruled(design, rules) AS c WHERE c.of_table->>'id' = t->>'id') AS given ON true
      LEFT JOIN LATERAL (SELECT one, true AS is_person FROM jsonb_array_elements_text(g->'people') AS one
        UNION ALL SELECT one, false FROM jsonb_array_elements_text(coalesce(g->'groups', '[]'::jsonb)) AS one) AS asked ON true
      WHERE t->'asks' ? (step->>'id')) AS said) END
$$;
--> statement-breakpoint
-- The least of the days that the rows that count give each step.
CREATE FUNCTION slate.days_ruled(design jsonb, rules jsonb) RETURNS jsonb LANGUAGE sql IMMUTABLE AS $$
  SELECT coalesce(jsonb_object_agg(step, least), '{}'::jsonb) FROM (SELECT step, min((slate.gives_step(rule_row, step)->>'days')::int) AS least
    FROM slate.rows_ruled(design, rules), jsonb_array_elements_text(of_table->'days') AS step GROUP BY step) AS told WHERE least IS NOT NULL
$$;
--> statement-breakpoint
DROP FUNCTION slate.move_submission(uuid, text, text, integer, uuid[], text, text, jsonb, timestamptz, text[], jsonb, jsonb);
--> statement-breakpoint
-- As before, and: which rows of rules count is told when it is sent, and kept with it; whom they ask is read from the release.
CREATE FUNCTION slate.move_submission(of_submission uuid, event text, to_state text, to_step integer, people uuid[], said text, given_number text, given_answers jsonb, happened timestamptz, skips text[] DEFAULT '{}', names jsonb DEFAULT '{}', beside jsonb DEFAULT '{}', rules jsonb DEFAULT '{}')
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
