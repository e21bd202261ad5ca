ALTER TABLE "slate"."notice" DROP CONSTRAINT "notice_kind_known";--> statement-breakpoint
ALTER TABLE "slate"."notice" ADD CONSTRAINT "notice_kind_known" CHECK ("slate"."notice"."kind" IN ('asked', 'kept', 'sent-back', 'declined', 'withdrawn', 'remark', 'due', 'late', 'corrected'));
--> statement-breakpoint
-- Answers without some of them, and without the reasons, of which some may come: what nobody who corrects the others changes.
CREATE FUNCTION slate.answers_without(given jsonb, fields text[]) RETURNS jsonb LANGUAGE sql IMMUTABLE AS $$
  SELECT jsonb_build_object('values', coalesce(given->'values', '{}'::jsonb) - fields, 'rows', (
    SELECT jsonb_object_agg(listed.key, (SELECT jsonb_agg(one || jsonb_build_object('cells', (one->'cells') - fields) ORDER BY place) FROM jsonb_array_elements(listed.value) WITH ORDINALITY AS each (one, place)))
    FROM jsonb_each(coalesce(given->'rows', '{}'::jsonb)) AS listed))
$$;
--> statement-breakpoint
-- Whoever decides a step corrects what it may correct, and nothing else. What the answers tell of the path is told anew; what was decided before stands.
CREATE FUNCTION slate.correct_answers(of_submission uuid, given jsonb, skips text[], names jsonb, rules jsonb, said text, happened timestamptz) RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
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
    OR EXISTS (SELECT 1 FROM jsonb_object_keys(names) AS one WHERE NOT EXISTS (SELECT 1 FROM jsonb_array_elements(steps) AS step WHERE step->>'id' = one AND step ? 'named')) THEN
    RAISE EXCEPTION 'the answers do not tell that' USING ERRCODE = 'TS010';
  END IF;
  IF as_whom <> me THEN PERFORM slate.note_stand_in(s.id, here, happened); END IF;
  UPDATE submission SET answers = given, skipped = skips, named = names, ruled = rules, days = slate.days_ruled(whole, rules), version = s.version + 1, updated_at = happened WHERE id = s.id;
  INSERT INTO submission_event (submission_id, position, kind, step, by_id, for_id, word, answers, at)
    SELECT s.id, coalesce(max(position), 0) + 1, 'correct', here, me, nullif(as_whom, me), said, given, happened FROM submission_event WHERE submission_id = s.id;
  PERFORM slate.tell('submission:' || s.id);
END $$;
--> statement-breakpoint
-- As before; who sent it is told of a correction as well.
CREATE OR REPLACE FUNCTION slate.notice_of_event() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE s submission; sent integer;
BEGIN
  SELECT * INTO s FROM submission WHERE id = NEW.submission_id;
  SELECT coalesce(max(position), 0) INTO sent FROM submission_event WHERE submission_id = s.id AND kind = 'send';
  PERFORM slate.put_notice(one, s.id, what, NEW.position, NULL, NEW.at) FROM (
    SELECT s.sender_id, 'kept' WHERE NEW.kind = 'approve' AND s.state = 'kept'
    UNION SELECT s.sender_id, 'sent-back' WHERE NEW.kind = 'send-back'
    UNION SELECT s.sender_id, 'declined' WHERE NEW.kind = 'decline'
    UNION SELECT s.sender_id, 'corrected' WHERE NEW.kind = 'correct'
    UNION SELECT n.person_id, 'withdrawn' FROM notice n WHERE NEW.kind = 'withdraw' AND n.submission_id = s.id AND n.kind = 'asked' AND n.position >= sent
      AND NOT EXISTS (SELECT 1 FROM submission_event e WHERE e.submission_id = s.id AND e.position > n.position AND e.by_id = n.person_id AND e.kind IN ('approve', 'hand-over'))
    UNION SELECT s.sender_id, 'remark' WHERE NEW.kind = 'remark'
    UNION SELECT a.person_id, 'remark' FROM ask a WHERE NEW.kind = 'remark' AND a.submission_id = s.id AND a.open
    UNION SELECT e.by_id, 'remark' FROM submission_event e WHERE NEW.kind = 'remark' AND e.submission_id = s.id AND e.kind = 'remark') AS told (one, what)
  WHERE one <> NEW.by_id;
  RETURN NULL;
END $$;
