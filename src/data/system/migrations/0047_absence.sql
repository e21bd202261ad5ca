CREATE TABLE "slate"."absence" (
	"id" uuid PRIMARY KEY NOT NULL,
	"person_id" uuid NOT NULL,
	"from_day" date NOT NULL,
	"until_day" date NOT NULL,
	"stand_in_id" uuid NOT NULL,
	"by_id" uuid NOT NULL,
	"ended_at" timestamp with time zone,
	"ended_by_id" uuid,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "absence_days" CHECK ("slate"."absence"."until_day" >= "slate"."absence"."from_day"),
	CONSTRAINT "absence_by_another" CHECK ("slate"."absence"."stand_in_id" <> "slate"."absence"."person_id")
);
--> statement-breakpoint
ALTER TABLE "slate"."submission_event" ADD COLUMN "for_id" uuid;--> statement-breakpoint
ALTER TABLE "slate"."submission_event" ADD COLUMN "to_id" uuid;--> statement-breakpoint
ALTER TABLE "slate"."absence" ADD CONSTRAINT "absence_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "slate"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."absence" ADD CONSTRAINT "absence_stand_in_id_person_id_fk" FOREIGN KEY ("stand_in_id") REFERENCES "slate"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."absence" ADD CONSTRAINT "absence_by_id_person_id_fk" FOREIGN KEY ("by_id") REFERENCES "slate"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."absence" ADD CONSTRAINT "absence_ended_by_id_person_id_fk" FOREIGN KEY ("ended_by_id") REFERENCES "slate"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "absence_stand_in" ON "slate"."absence" USING btree ("stand_in_id") WHERE "slate"."absence"."ended_at" IS NULL;--> statement-breakpoint
CREATE INDEX "absence_person" ON "slate"."absence" USING btree ("person_id") WHERE "slate"."absence"."ended_at" IS NULL;--> statement-breakpoint
ALTER TABLE "slate"."submission_event" ADD CONSTRAINT "submission_event_for_id_person_id_fk" FOREIGN KEY ("for_id") REFERENCES "slate"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."submission_event" ADD CONSTRAINT "submission_event_to_id_person_id_fk" FOREIGN KEY ("to_id") REFERENCES "slate"."person"("id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE slate.absence ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
-- That somebody is away, and who stands in, is no secret among colleagues: whoever waits for them must know.
CREATE POLICY absence_seen ON slate.absence FOR SELECT USING ((SELECT slate.asking()) IS NOT NULL);
--> statement-breakpoint
CREATE FUNCTION slate.today() RETURNS date LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT (now() AT TIME ZONE coalesce((SELECT zone FROM workspace), 'UTC'))::date
$$;
--> statement-breakpoint
-- Themselves, and everybody who is away today and for whom they stand in: also for somebody whose stand-in is away as well.
CREATE FUNCTION slate.asked_as() RETURNS uuid[] LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  WITH RECURSIVE acts (who) AS (
    SELECT slate.asking()
    UNION
    SELECT a.person_id FROM acts JOIN absence a ON a.stand_in_id = acts.who AND a.ended_at IS NULL AND slate.today() BETWEEN a.from_day AND a.until_day)
  SELECT array_agg(who) FROM acts WHERE who IS NOT NULL
$$;
--> statement-breakpoint
-- Those who stand in for somebody today, and so on.
CREATE FUNCTION slate.stand_ins_of(somebody uuid) RETURNS SETOF uuid LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  WITH RECURSIVE acts (who) AS (
    SELECT somebody
    UNION
    SELECT a.stand_in_id FROM acts JOIN absence a ON a.person_id = acts.who AND a.ended_at IS NULL AND slate.today() BETWEEN a.from_day AND a.until_day)
  SELECT who FROM acts WHERE who <> somebody
$$;
--> statement-breakpoint
-- As whom somebody may decide now: as themselves where they are asked, else as one of those they stand in for, longest asked first. Nobody decides their own, and nobody a step twice.
CREATE FUNCTION slate.seat(of_submission uuid) RETURNS uuid LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT a.person_id FROM ask a JOIN submission s ON s.id = a.submission_id
  WHERE s.id = of_submission AND s.state = 'waiting' AND a.open AND a.step = s.step AND s.sender_id <> slate.asking() AND a.person_id = ANY (slate.asked_as())
    AND (a.person_id = slate.asking() OR NOT EXISTS (SELECT 1 FROM submission_event e WHERE e.submission_id = s.id AND e.kind = 'approve' AND e.step = s.step AND e.by_id = slate.asking()
      AND e.position > (SELECT coalesce(max(position), 0) FROM submission_event WHERE submission_id = s.id AND kind = 'send')))
  ORDER BY a.person_id <> slate.asking(), a.since, a.person_id LIMIT 1
$$;
--> statement-breakpoint
-- Whoever stands in sees what is open; what they decided they see as any approver does.
ALTER POLICY submission_seen ON slate.submission USING (
  sender_id = (SELECT slate.asking())
  OR EXISTS (SELECT 1 FROM slate.ask a WHERE a.submission_id = id AND (a.person_id = (SELECT slate.asking()) OR (a.open AND a.person_id = ANY ((SELECT slate.asked_as())::uuid[]))))
  OR (sent_at IS NOT NULL AND slate.may_form(form_id, 'see-all')));
--> statement-breakpoint
ALTER POLICY submission_changed ON slate.submission USING (
  sender_id = (SELECT slate.asking())
  OR EXISTS (SELECT 1 FROM slate.ask a WHERE a.submission_id = id AND (a.person_id = (SELECT slate.asking()) OR (a.open AND a.person_id = ANY ((SELECT slate.asked_as())::uuid[])))));
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.record_of_submission(of_submission uuid) RETURNS jsonb LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE s submission; me uuid := slate.asking();
BEGIN
  SELECT * INTO s FROM submission WHERE id = of_submission AND of_record IS NOT NULL AND state IN ('draft', 'sent-back', 'waiting');
  IF NOT FOUND OR NOT (s.sender_id = me OR EXISTS (SELECT 1 FROM ask a WHERE a.submission_id = s.id AND (a.person_id = me OR (a.open AND a.person_id = ANY (slate.asked_as())))) OR (s.sent_at IS NOT NULL AND slate.owns_form(s.form_id))) THEN RETURN NULL; END IF;
  -- What its sender does not see is shown to nobody by it.
  IF NOT slate.person_may(s.sender_id, (SELECT (r.design->'table'->>'id')::uuid FROM form_release r WHERE r.id = s.release_id), 'see') THEN RETURN NULL; END IF;
  RETURN slate.stored_record((SELECT (r.design->'table'->>'id')::uuid FROM form_release r WHERE r.id = s.release_id), s.of_record);
END $$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.tell_asked() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  PERFORM slate.tell('person:' || one) FROM (SELECT NEW.person_id UNION SELECT slate.stand_ins_of(NEW.person_id)) AS told (one);
  RETURN NULL;
END $$;
--> statement-breakpoint
-- As before, and: whoever stands in decides for somebody, which its event says, and sees afterwards what they decided.
CREATE OR REPLACE FUNCTION slate.move_submission(of_submission uuid, event text, to_state text, to_step integer, people uuid[], said text, given_number text, given_answers jsonb, happened timestamptz, skips text[] DEFAULT '{}')
RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE me uuid := slate.asking(); s submission; steps jsonb; as_whom uuid; is_asked boolean; wanted text; others uuid[]; enough jsonb; stays boolean := false; left_out text[]; next_step integer;
BEGIN
  SELECT * INTO s FROM submission WHERE id = of_submission FOR UPDATE;
  SELECT coalesce(design->'steps', '[]'::jsonb) INTO steps FROM form_release WHERE id = s.release_id;
  IF event = 'send' AND EXISTS (SELECT 1 FROM unnest(skips) AS one WHERE NOT EXISTS (SELECT 1 FROM jsonb_array_elements(steps) AS step WHERE step->>'id' = one AND step ? 'when')) THEN
    RAISE EXCEPTION 'this step is always asked' USING ERRCODE = 'TS010';
  END IF;
  left_out := CASE WHEN event = 'send' THEN skips ELSE s.skipped END;
  SELECT min(at) - 1 INTO next_step FROM jsonb_array_elements(steps) WITH ORDINALITY AS asked (step, at)
    WHERE at - 1 > CASE WHEN event = 'send' THEN -1 ELSE s.step END AND NOT step->>'id' = ANY (left_out);
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
    OR EXISTS (SELECT 1 FROM unnest(people) AS one WHERE NOT slate.is_asked_by(steps->to_step, one, s.sender_id))) THEN
    RAISE EXCEPTION 'these people are not those of the step' USING ERRCODE = 'TS010';
  END IF;
  UPDATE ask SET open = false WHERE submission_id = s.id AND open AND (person_id = as_whom OR NOT stays);
  IF as_whom <> me THEN PERFORM slate.note_stand_in(s.id, s.step, happened); END IF;
  UPDATE submission SET state = to_state, step = to_step, skipped = left_out, version = s.version + 1, updated_at = happened,
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
-- Somebody who decided for another was asked too, as far as seeing it later goes.
CREATE FUNCTION slate.note_stand_in(of_submission uuid, at_step integer, happened timestamptz) RETURNS void LANGUAGE sql VOLATILE SET search_path = slate, pg_temp AS $$
  INSERT INTO ask (submission_id, step, person_id, open, since) VALUES (of_submission, at_step, slate.asking(), false, happened) ON CONFLICT DO NOTHING
$$;
--> statement-breakpoint
-- Whoever is asked gives it to a colleague, who is asked in their place. Not to the sender, nor to somebody who is asked or has approved this step already: each has one word.
CREATE FUNCTION slate.hand_over(of_submission uuid, to_person uuid, said text, happened timestamptz) RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE me uuid := slate.asking(); s submission; as_whom uuid;
BEGIN
  SELECT * INTO s FROM submission WHERE id = of_submission FOR UPDATE;
  as_whom := slate.seat(s.id);
  IF as_whom IS NULL OR to_person = s.sender_id OR NOT EXISTS (SELECT 1 FROM person WHERE id = to_person AND ended_at IS NULL)
    OR EXISTS (SELECT 1 FROM ask WHERE submission_id = s.id AND step = s.step AND open AND person_id = to_person)
    OR EXISTS (SELECT 1 FROM submission_event WHERE submission_id = s.id AND kind = 'approve' AND step = s.step AND by_id = to_person
      AND position > (SELECT coalesce(max(position), 0) FROM submission_event WHERE submission_id = s.id AND kind = 'send')) THEN
    RAISE EXCEPTION 'this cannot be handed over like this' USING ERRCODE = 'TS010';
  END IF;
  UPDATE ask SET open = false WHERE submission_id = s.id AND open AND person_id = as_whom;
  IF as_whom <> me THEN PERFORM slate.note_stand_in(s.id, s.step, happened); END IF;
  UPDATE submission SET version = s.version + 1, updated_at = happened WHERE id = s.id;
  INSERT INTO submission_event (submission_id, position, kind, step, by_id, for_id, to_id, word, at)
    SELECT s.id, coalesce(max(position), 0) + 1, 'hand-over', s.step, me, nullif(as_whom, me), to_person, said, happened FROM submission_event WHERE submission_id = s.id;
  INSERT INTO ask (submission_id, step, person_id, open, since) VALUES (s.id, s.step, to_person, true, happened)
    ON CONFLICT (submission_id, step, person_id) DO UPDATE SET open = true, since = happened;
  PERFORM slate.tell('submission:' || s.id);
END $$;
--> statement-breakpoint
-- A word without a decision, by those on the path: its sender, and whoever is or was asked. Nobody has to look again because of it, so the version stays.
CREATE FUNCTION slate.remark(of_submission uuid, said text, happened timestamptz) RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE me uuid := slate.asking(); s submission;
BEGIN
  SELECT * INTO s FROM submission WHERE id = of_submission AND sent_at IS NOT NULL FOR UPDATE;
  IF NOT FOUND OR said = '' OR NOT (s.sender_id = me OR EXISTS (SELECT 1 FROM ask a WHERE a.submission_id = s.id AND (a.person_id = me OR (a.open AND a.person_id = ANY (slate.asked_as()))))) THEN
    RAISE EXCEPTION 'nobody else has a word here' USING ERRCODE = 'TS010';
  END IF;
  INSERT INTO submission_event (submission_id, position, kind, step, by_id, word, at)
    SELECT s.id, coalesce(max(position), 0) + 1, 'remark', s.step, me, said, happened FROM submission_event WHERE submission_id = s.id;
  PERFORM slate.tell('submission:' || s.id);
  PERFORM slate.tell('person:' || one) FROM (SELECT s.sender_id UNION SELECT person_id FROM ask WHERE submission_id = s.id AND open) AS told (one) WHERE one <> me;
END $$;
--> statement-breakpoint
-- Somebody is away: said by themselves, or for them by an administrator. Said again under the same id it is the same absence with other days, or another stand-in.
CREATE FUNCTION slate.put_absence(absence_id uuid, who uuid, first_day date, last_day date, stand_in uuid) RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  IF who <> slate.asking() THEN PERFORM slate.only_administrators(); END IF;
  IF (SELECT count(*) FROM person WHERE id IN (who, stand_in) AND ended_at IS NULL) < 2 THEN RAISE EXCEPTION 'nobody stands in' USING ERRCODE = 'TS010'; END IF;
  INSERT INTO absence (id, person_id, from_day, until_day, stand_in_id, by_id) VALUES (absence_id, who, first_day, last_day, stand_in, slate.asking())
    ON CONFLICT (id) DO UPDATE SET from_day = first_day, until_day = last_day, stand_in_id = stand_in, by_id = slate.asking() WHERE absence.person_id = who AND absence.ended_at IS NULL;
  IF NOT FOUND THEN RAISE EXCEPTION 'this absence is somebody else''s, or over' USING ERRCODE = 'TS010'; END IF;
  PERFORM slate.tell('person:' || one) FROM (SELECT who UNION SELECT stand_in) AS told (one);
END $$;
--> statement-breakpoint
CREATE FUNCTION slate.end_absence(absence_id uuid) RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE a absence;
BEGIN
  SELECT * INTO a FROM absence WHERE id = absence_id AND ended_at IS NULL FOR UPDATE;
  IF NOT FOUND THEN RETURN; END IF;
  IF a.person_id <> slate.asking() THEN PERFORM slate.only_administrators(); END IF;
  UPDATE absence SET ended_at = now(), ended_by_id = slate.asking() WHERE id = absence_id;
  PERFORM slate.tell('person:' || one) FROM (SELECT a.person_id UNION SELECT a.stand_in_id) AS told (one);
END $$;
--> statement-breakpoint
-- Whoever has left is not away, and stands in for nobody: whoever took over from them is asked instead, and may hand it on.
CREATE FUNCTION slate.end_absences() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  UPDATE absence SET ended_at = now(), ended_by_id = slate.asking() WHERE ended_at IS NULL AND NEW.id IN (person_id, stand_in_id);
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER absences_ended AFTER UPDATE OF ended_at ON slate.person FOR EACH ROW WHEN (NEW.ended_at IS NOT NULL AND OLD.ended_at IS NULL) EXECUTE FUNCTION slate.end_absences();
