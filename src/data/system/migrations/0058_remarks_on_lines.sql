ALTER TABLE "slate"."submission_event" ADD COLUMN "place" text;--> statement-breakpoint
ALTER TABLE "slate"."submission_event" ADD COLUMN "tells" uuid[] DEFAULT '{}' NOT NULL;
--> statement-breakpoint
DROP FUNCTION slate.remark(uuid, text, timestamptz);
--> statement-breakpoint
-- As before, and: about one answer, where it says so; those on its path whom it names are told, also where they have decided already.
CREATE FUNCTION slate.remark(of_submission uuid, said text, happened timestamptz, at_place text DEFAULT NULL, named uuid[] DEFAULT '{}') RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE me uuid := slate.asking(); s submission;
BEGIN
  SELECT * INTO s FROM submission WHERE id = of_submission AND sent_at IS NOT NULL FOR UPDATE;
  IF NOT FOUND OR said = '' OR NOT (s.sender_id = me OR EXISTS (SELECT 1 FROM ask a WHERE a.submission_id = s.id AND (a.person_id = me OR (a.open AND a.person_id = ANY (slate.asked_as()))))) THEN
    RAISE EXCEPTION 'nobody else has a word here' USING ERRCODE = 'TS010';
  END IF;
  IF EXISTS (SELECT 1 FROM unnest(named) AS one WHERE one <> s.sender_id AND NOT EXISTS (SELECT 1 FROM ask a WHERE a.submission_id = s.id AND a.person_id = one)
    AND NOT EXISTS (SELECT 1 FROM submission_event e WHERE e.submission_id = s.id AND e.by_id = one)) THEN
    RAISE EXCEPTION 'they are not on its path' USING ERRCODE = 'TS010';
  END IF;
  INSERT INTO submission_event (submission_id, position, kind, step, by_id, word, place, tells, at)
    SELECT s.id, coalesce(max(position), 0) + 1, 'remark', s.step, me, said, at_place, named, happened FROM submission_event WHERE submission_id = s.id;
  PERFORM slate.tell('submission:' || s.id);
  PERFORM slate.tell('person:' || one) FROM (SELECT s.sender_id UNION SELECT person_id FROM ask WHERE submission_id = s.id AND open UNION SELECT unnest(named)) AS told (one) WHERE one <> me;
END $$;
--> statement-breakpoint
-- As before; whom a remark names is told.
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
    UNION SELECT named, 'remark' FROM unnest(NEW.tells) AS named WHERE NEW.kind = 'remark'
    UNION SELECT a.person_id, 'remark' FROM ask a WHERE NEW.kind = 'remark' AND a.submission_id = s.id AND a.open
    UNION SELECT e.by_id, 'remark' FROM submission_event e WHERE NEW.kind = 'remark' AND e.submission_id = s.id AND e.kind = 'remark') AS told (one, what)
  WHERE one <> NEW.by_id;
  RETURN NULL;
END $$;
