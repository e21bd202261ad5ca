CREATE TABLE "slate"."lapse" (
	"submission_id" uuid NOT NULL,
	"step" integer NOT NULL,
	"position" integer NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"tried_at" timestamp with time zone,
	"trouble" text,
	CONSTRAINT "lapse_submission_id_step_position_pk" PRIMARY KEY("submission_id","step","position")
);
--> statement-breakpoint
CREATE TABLE "slate"."stuck_told" (
	"submission_id" uuid PRIMARY KEY NOT NULL
);
--> statement-breakpoint
ALTER TABLE "slate"."account_mail" DROP CONSTRAINT "account_mail_kind";--> statement-breakpoint
ALTER TABLE "slate"."notice" DROP CONSTRAINT "notice_kind_known";--> statement-breakpoint
ALTER TABLE "slate"."lapse" ADD CONSTRAINT "lapse_submission_id_submission_id_fk" FOREIGN KEY ("submission_id") REFERENCES "slate"."submission"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."stuck_told" ADD CONSTRAINT "stuck_told_submission_id_submission_id_fk" FOREIGN KEY ("submission_id") REFERENCES "slate"."submission"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."account_mail" ADD CONSTRAINT "account_mail_kind" CHECK ("slate"."account_mail"."kind" IN ('invited', 'forgotten', 'changed', 'stuck'));--> statement-breakpoint
ALTER TABLE "slate"."notice" ADD CONSTRAINT "notice_kind_known" CHECK ("slate"."notice"."kind" IN ('asked', 'kept', 'sent-back', 'declined', 'withdrawn', 'remark', 'due', 'late', 'corrected', 'soon', 'passed'));
--> statement-breakpoint
ALTER TABLE slate.lapse ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
ALTER TABLE slate.stuck_told ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
-- The first step something waits at that is late and may be gone on without: since it began it was not begun anew.
CREATE FUNCTION slate.lapsed_at(of_submission uuid) RETURNS integer LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT min(l.step) FROM lapse l JOIN submission s ON s.id = l.submission_id
  WHERE l.submission_id = of_submission AND s.state = 'waiting' AND l.position = slate.begun_with(s.id, l.step)
    AND (l.step = s.step OR EXISTS (SELECT 1 FROM ask a WHERE a.submission_id = s.id AND a.step = l.step AND a.open))
$$;
--> statement-breakpoint
-- Whom the answers of a sheet may name: for steps that ask by them, and of a group that holds a place, those who are in it.
CREATE FUNCTION slate.names_may_say(steps jsonb, names jsonb) RETURNS boolean LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT NOT EXISTS (SELECT 1 FROM jsonb_each(names) AS said (step_id, whom) WHERE NOT EXISTS (SELECT 1 FROM jsonb_array_elements(steps) AS step
    WHERE step->>'id' = step_id AND (step ? 'named' OR (step ? 'role' AND NOT EXISTS (SELECT 1 FROM jsonb_array_elements_text(whom) AS one WHERE NOT (step->'role'->>'group')::uuid = ANY (slate.groups_of(one::uuid)))))))
$$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.move_submission(of_submission uuid, event text, to_state text, to_step integer, people uuid[], said text, given_number text, given_answers jsonb, happened timestamp with time zone, skips text[] DEFAULT '{}'::text[], names jsonb DEFAULT '{}'::jsonb, beside jsonb DEFAULT '{}'::jsonb, rules jsonb DEFAULT '{}'::jsonb)
 RETURNS void
 LANGUAGE plpgsql
 SECURITY DEFINER
 SET search_path TO 'slate', 'pg_temp'
AS $$
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
  IF event = 'send' AND NOT slate.names_may_say(steps, names) THEN
    RAISE EXCEPTION 'this step asks nobody by an answer' USING ERRCODE = 'TS010';
  END IF;
  names_now := CASE WHEN event = 'send' THEN names ELSE s.named END;
  left_out := CASE WHEN event = 'send' THEN skips ELSE s.skipped END;
  SELECT who, at_step INTO as_whom, here FROM slate.seat_at(s.id);
  is_asked := as_whom IS NOT NULL;
  IF event = 'lapse' THEN
    as_whom := NULL;
    here := slate.lapsed_at(s.id);
    is_asked := here IS NOT NULL AND me = s.sender_id;
  END IF;
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
  IF event = 'lapse' THEN rest := (SELECT min(step) FROM ask WHERE submission_id = s.id AND open AND step <> here); END IF;
  wanted := CASE
    WHEN event = 'send' AND me = s.sender_id AND s.state IN ('draft', 'sent-back') THEN coalesce('waiting ' || next_step, 'kept')
    WHEN stays THEN 'waiting ' || s.step
    WHEN event IN ('approve', 'lapse') AND is_asked THEN coalesce('waiting ' || coalesce(rest, next_step), 'kept')
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
  IF event = 'lapse' THEN DELETE FROM lapse WHERE submission_id = s.id AND step = here; END IF;
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
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.correct_answers(of_submission uuid, given jsonb, skips text[], names jsonb, rules jsonb, said text, happened timestamp with time zone)
 RETURNS void
 LANGUAGE plpgsql
 SECURITY DEFINER
 SET search_path TO 'slate', 'pg_temp'
AS $$
DECLARE me uuid := slate.asking(); s submission; as_whom uuid; here integer; whole jsonb; steps jsonb; fields text[];
BEGIN
  SELECT * INTO s FROM submission WHERE id = of_submission FOR UPDATE;
  SELECT who, at_step INTO as_whom, here FROM slate.seat_at(s.id);
  SELECT design INTO whole FROM form_release WHERE id = s.release_id;
  fields := ARRAY(SELECT jsonb_array_elements_text(coalesce(whole->'steps'->here->'corrects', '[]'::jsonb)));
  IF as_whom IS NULL OR cardinality(fields) = 0 OR slate.answers_without(given, fields) IS DISTINCT FROM slate.answers_without(s.answers, fields) OR NOT slate.rules_may_say(whole, rules)
    OR EXISTS (SELECT 1 FROM jsonb_each_text(coalesce(s.answers->'reasons', '{}'::jsonb)) AS was WHERE was.value ~ '\S' AND given->'reasons'->>was.key IS DISTINCT FROM was.value) THEN
    RAISE EXCEPTION 'this is not theirs to correct' USING ERRCODE = 'TS010';
  END IF;
  steps := slate.steps_ruled(whole, rules);
  IF EXISTS (SELECT 1 FROM unnest(skips) AS one WHERE NOT EXISTS (SELECT 1 FROM jsonb_array_elements(steps) AS step WHERE step->>'id' = one AND step ?| ARRAY['when', 'nobody']))
    OR NOT slate.names_may_say(steps, names) THEN
    RAISE EXCEPTION 'the answers do not tell that' USING ERRCODE = 'TS010';
  END IF;
  IF as_whom <> me THEN PERFORM slate.note_stand_in(s.id, here, happened); END IF;
  UPDATE submission SET answers = given, skipped = skips, named = names, ruled = rules, days = slate.days_ruled(whole, rules), version = s.version + 1, updated_at = happened WHERE id = s.id;
  INSERT INTO submission_event (submission_id, position, kind, step, by_id, for_id, word, answers, at)
    SELECT s.id, coalesce(max(position), 0) + 1, 'correct', here, me, nullif(as_whom, me), said, given, happened FROM submission_event WHERE submission_id = s.id;
  PERFORM slate.tell('submission:' || s.id);
END $$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.steps_ruled(design jsonb, rules jsonb)
 RETURNS jsonb
 LANGUAGE sql
 IMMUTABLE
AS $$
  SELECT CASE WHEN NOT coalesce(design ? 'rules', false) THEN coalesce(design->'steps', '[]'::jsonb) ELSE (
    SELECT coalesce(jsonb_agg(CASE WHEN said.tables = 0 THEN step
        ELSE (step - ARRAY['people', 'groups', 'manager', 'named', 'role', 'nobody']) || CASE WHEN said.silent THEN '{"people": []}'::jsonb ELSE
          jsonb_build_object('people', said.people, 'groups', said.groups)
          || CASE WHEN said.levels > 0 THEN jsonb_build_object('manager', said.levels) ELSE '{}'::jsonb END || CASE WHEN said.named THEN '{"named": ""}'::jsonb ELSE '{}'::jsonb END
          || CASE WHEN said.nobody THEN '{"nobody": true}'::jsonb ELSE '{}'::jsonb END END END ORDER BY place), '[]'::jsonb)
    FROM jsonb_array_elements(coalesce(design->'steps', '[]'::jsonb)) WITH ORDINALITY AS listed (step, place) CROSS JOIN LATERAL (
      SELECT count(DISTINCT t->>'id') AS tables, bool_or(g IS NULL) AS silent, max(slate.levels_of(g)) AS levels, bool_or(g ? 'named') AS named, bool_and(g->'nobody' = 'true'::jsonb) AS nobody,
        coalesce(jsonb_agg(DISTINCT one) FILTER (WHERE is_person), '[]'::jsonb) AS people, coalesce(jsonb_agg(DISTINCT one) FILTER (WHERE NOT is_person), '[]'::jsonb) AS groups
      FROM jsonb_array_elements(design->'rules') AS t LEFT JOIN LATERAL (
        SELECT slate.gives_step(c.rule_row, step->>'id') AS g FROM slate.rows_ruled(design, rules) AS c WHERE c.of_table->>'id' = t->>'id') AS given ON true
      LEFT JOIN LATERAL (SELECT one, true AS is_person FROM jsonb_array_elements_text(g->'people') AS one
        UNION ALL SELECT one, false FROM jsonb_array_elements_text(coalesce(g->'groups', '[]'::jsonb)) AS one) AS asked ON true
      WHERE t->'asks' ? (step->>'id')) AS said) END
$$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.notice_of_event()
 RETURNS trigger
 LANGUAGE plpgsql
 SECURITY DEFINER
 SET search_path TO 'slate', 'pg_temp'
AS $$
DECLARE s submission; sent integer;
BEGIN
  SELECT * INTO s FROM submission WHERE id = NEW.submission_id;
  SELECT coalesce(max(position), 0) INTO sent FROM submission_event WHERE submission_id = s.id AND kind = 'send';
  PERFORM slate.put_notice(one, s.id, what, NEW.position, NULL, NEW.at) FROM (
    SELECT s.sender_id, 'kept' WHERE NEW.kind IN ('approve', 'lapse') AND s.state = 'kept'
    UNION SELECT a.person_id, 'passed' FROM ask a WHERE NEW.kind = 'lapse' AND a.submission_id = s.id AND a.step = NEW.step AND NOT a.open AND a.since >= s.sent_at
      AND NOT EXISTS (SELECT 1 FROM submission_event e WHERE e.submission_id = s.id AND e.step = NEW.step AND e.by_id = a.person_id AND e.kind IN ('approve', 'decline', 'hand-over') AND e.at >= a.since)
    UNION SELECT s.sender_id, 'sent-back' WHERE NEW.kind = 'send-back'
    UNION SELECT s.sender_id, 'declined' WHERE NEW.kind = 'decline' AND s.state = 'declined'
    UNION SELECT s.sender_id, 'corrected' WHERE NEW.kind = 'correct'
    UNION SELECT n.person_id, 'withdrawn' FROM notice n WHERE NEW.kind = 'withdraw' AND n.submission_id = s.id AND n.kind = 'asked' AND n.position >= sent
      AND NOT EXISTS (SELECT 1 FROM submission_event e WHERE e.submission_id = s.id AND e.position > n.position AND e.by_id = n.person_id AND e.kind IN ('approve', 'hand-over'))
    UNION SELECT s.sender_id, 'remark' WHERE NEW.kind = 'remark'
    UNION SELECT named, 'remark' FROM unnest(NEW.tells) AS named WHERE NEW.kind = 'remark'
    UNION SELECT a.person_id, 'remark' FROM ask a WHERE NEW.kind = 'remark' AND a.submission_id = s.id AND a.open
    UNION SELECT e.by_id, 'remark' FROM submission_event e WHERE NEW.kind = 'remark' AND e.submission_id = s.id AND e.kind = 'remark') AS told (one, what)
  WHERE one <> NEW.by_id OR NEW.kind = 'lapse';
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.mail_outside()
 RETURNS trigger
 LANGUAGE plpgsql
 SECURITY DEFINER
 SET search_path TO 'slate', 'pg_temp'
AS $$
DECLARE s submission; mail text; what text;
BEGIN
  SELECT * INTO s FROM submission WHERE id = NEW.submission_id;
  what := CASE WHEN NEW.kind = 'send' THEN 'sent' WHEN NEW.kind = 'send-back' THEN 'sent-back' WHEN NEW.kind = 'decline' AND s.state = 'declined' THEN 'declined' WHEN NEW.kind IN ('approve', 'lapse') AND s.state = 'kept' THEN 'kept' END;
  IF what IS NULL THEN RETURN NULL; END IF;
  SELECT s.sent_answers->'values'->>o.mail_to INTO mail FROM form_link l JOIN form_outside o ON o.form_id = l.form_id WHERE l.person_id = s.sender_id;
  IF mail ~ '^\S+@\S+$' THEN
    INSERT INTO outside_mail (submission_id, kind, address, word, at) VALUES (s.id, what, mail, CASE WHEN NEW.kind = 'send' THEN '' ELSE NEW.word END, NEW.at);
  END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.notice_of_ask()
 RETURNS trigger
 LANGUAGE plpgsql
 SECURITY DEFINER
 SET search_path TO 'slate', 'pg_temp'
AS $$
DECLARE sender uuid; last_event integer;
BEGIN
  IF NEW.open THEN
    SELECT s.sender_id INTO sender FROM submission s WHERE s.id = NEW.submission_id;
    SELECT coalesce(max(position), 0) INTO last_event FROM submission_event WHERE submission_id = NEW.submission_id;
    PERFORM slate.put_notice(one, NEW.submission_id, 'asked', last_event, nullif(NEW.person_id, one), NEW.since)
      FROM (SELECT NEW.person_id UNION SELECT slate.stand_ins_of(NEW.person_id)) AS told (one) WHERE one <> sender;
  ELSE
    UPDATE notice SET seen_at = now() WHERE submission_id = NEW.submission_id AND kind IN ('asked', 'soon', 'due', 'late') AND seen_at IS NULL AND NEW.person_id IN (person_id, for_id);
  END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.note_path()
 RETURNS trigger
 LANGUAGE plpgsql
 SECURITY DEFINER
 SET search_path TO 'slate', 'pg_temp'
AS $$
DECLARE what text := CASE WHEN NEW.kind = 'send' THEN 'submission.sent' WHEN NEW.kind IN ('approve', 'decline', 'send-back', 'return', 'lapse') THEN 'submission.decided' WHEN NEW.kind = 'withdraw' THEN 'submission.withdrawn' WHEN NEW.kind = 'keep' THEN 'submission.kept' END;
BEGIN
  IF what IS NOT NULL THEN
    INSERT INTO event (kind, form_id, submission_id, place, by_id, at) SELECT what, form_id, id, NEW.position, NEW.by_id, NEW.at FROM submission WHERE id = NEW.submission_id;
  END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
DROP FUNCTION slate.waiting_cases(text, integer);
--> statement-breakpoint
CREATE FUNCTION slate.waiting_cases(said text, most integer)
 RETURNS TABLE(id uuid, number text, title text, sender uuid, labels jsonb, step integer, asked uuid[], since timestamp with time zone, stuck boolean, trouble text)
 LANGUAGE plpgsql
 STABLE SECURITY DEFINER
 SET search_path TO 'slate', 'pg_temp'
AS $$
BEGIN
  PERFORM slate.only_administrators();
  RETURN QUERY SELECT s.id, s.number, r.design->>'title', s.sender_id, (SELECT jsonb_agg(one->>'label' ORDER BY place) FROM jsonb_array_elements(r.design->'steps') WITH ORDINALITY AS listed (one, place)),
      w.step, w.asked, coalesce(w.since, s.sent_at), w.stuck, l.trouble
    FROM submission s JOIN form_release r ON r.id = s.release_id JOIN person p ON p.id = s.sender_id CROSS JOIN LATERAL (
      SELECT coalesce(a.step, s.step) AS step, coalesce(array_agg(a.person_id ORDER BY a.since) FILTER (WHERE a.open), '{}') AS asked, min(a.since) FILTER (WHERE a.open) AS since, slate.is_stuck(s.id, coalesce(a.step, s.step), s.sender_id) AS stuck
      FROM (SELECT 1) AS one LEFT JOIN ask a ON a.submission_id = s.id AND a.open GROUP BY coalesce(a.step, s.step)) AS w LEFT JOIN lapse l ON l.submission_id = s.id AND l.step = w.step AND l.position = slate.begun_with(s.id, w.step)
    WHERE s.state = 'waiting' AND (said = '' OR strpos(slate.folded(s.number || ' ' || (r.design->>'title') || ' ' || p.name), slate.folded(said)) > 0)
    ORDER BY w.stuck DESC, l.trouble IS NULL, 8, s.id LIMIT most;
END $$;
--> statement-breakpoint
CREATE FUNCTION slate.is_stuck_anywhere(of_submission uuid, sender uuid) RETURNS boolean LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT NOT EXISTS (SELECT 1 FROM ask a WHERE a.submission_id = of_submission AND a.open) OR EXISTS (SELECT 1 FROM ask a WHERE a.submission_id = of_submission AND a.open AND slate.is_stuck(of_submission, a.step, sender))
$$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.count_stuck() RETURNS integer LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT CASE WHEN slate.administers() THEN (SELECT count(*)::int FROM submission s WHERE s.state = 'waiting' AND slate.is_stuck_anywhere(s.id, s.sender_id)) ELSE 0 END
$$;
