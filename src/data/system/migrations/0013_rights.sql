CREATE TABLE "slate"."table_form" (
	"table_id" uuid NOT NULL,
	"form_id" uuid NOT NULL,
	"state" text NOT NULL,
	"by_id" uuid,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "table_form_table_id_form_id_pk" PRIMARY KEY("table_id","form_id"),
	CONSTRAINT "table_form_state" CHECK ("slate"."table_form"."state" IN ('asked', 'allowed'))
);
--> statement-breakpoint
ALTER TABLE "slate"."submission" DROP CONSTRAINT "submission_state_known";--> statement-breakpoint
ALTER TABLE "slate"."table_grant" DROP CONSTRAINT "table_grant_action";--> statement-breakpoint
ALTER TABLE "slate"."table_grant" DROP CONSTRAINT "table_grant_table_id_role_action_pk";--> statement-breakpoint
ALTER TABLE "slate"."table_grant" ALTER COLUMN "role" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "slate"."table_grant" ADD COLUMN "person_id" uuid;--> statement-breakpoint
ALTER TABLE "slate"."table_form" ADD CONSTRAINT "table_form_table_id_designed_table_id_fk" FOREIGN KEY ("table_id") REFERENCES "slate"."designed_table"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."table_form" ADD CONSTRAINT "table_form_form_id_form_id_fk" FOREIGN KEY ("form_id") REFERENCES "slate"."form"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."table_form" ADD CONSTRAINT "table_form_by_id_person_id_fk" FOREIGN KEY ("by_id") REFERENCES "slate"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."table_grant" ADD CONSTRAINT "table_grant_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "slate"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "table_grant_once" ON "slate"."table_grant" USING btree ("table_id","action",coalesce("role", ''),coalesce("person_id"::text, ''));--> statement-breakpoint
ALTER TABLE "slate"."submission" ADD CONSTRAINT "submission_state_known" CHECK ("slate"."submission"."state" IN ('draft', 'waiting', 'sent-back', 'kept', 'declined', 'withdrawn', 'rehearsing'));--> statement-breakpoint
ALTER TABLE "slate"."table_grant" ADD CONSTRAINT "table_grant_to" CHECK (num_nonnulls("slate"."table_grant"."role", "slate"."table_grant"."person_id") = 1);--> statement-breakpoint
ALTER TABLE "slate"."table_grant" ADD CONSTRAINT "table_grant_action" CHECK ("slate"."table_grant"."action" IN ('see', 'add', 'change', 'remove', 'pick', 'design'));
--> statement-breakpoint
-- Until now whoever saw a table could pick from it and, as an owner, design it; that stays for the tables there are.
INSERT INTO slate.table_grant (table_id, role, action) SELECT table_id, role, 'pick' FROM slate.table_grant WHERE action = 'see' ON CONFLICT DO NOTHING;
--> statement-breakpoint
INSERT INTO slate.table_grant (table_id, role, action) SELECT t.id, r.role, 'design' FROM slate.designed_table t, (VALUES ('administrator'), ('owner')) AS r (role) ON CONFLICT DO NOTHING;
--> statement-breakpoint
INSERT INTO slate.table_form (table_id, form_id, state) SELECT DISTINCT u.table_id, r.form_id, 'allowed' FROM slate.release_table u JOIN slate.form_release r ON r.id = u.release_id WHERE u.use = 'write' ON CONFLICT DO NOTHING;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.may(of_table uuid, wanted text) RETURNS boolean LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT EXISTS (SELECT 1 FROM table_grant g JOIN person p ON p.id = slate.asking()
    WHERE g.table_id = of_table AND g.action = wanted AND (g.role = ANY (p.roles) OR g.person_id = p.id))
$$;
--> statement-breakpoint
-- A submission is rehearsed as if it were kept, and what that writes is undone; it can never be committed in that state (see below).
CREATE OR REPLACE FUNCTION slate.keeps_in(of_table uuid) RETURNS boolean LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT EXISTS (SELECT 1 FROM submission s JOIN release_table r ON r.release_id = s.release_id AND r.use = 'write'
    WHERE s.id = slate.current_submission() AND s.state IN ('kept', 'rehearsing') AND r.table_id = of_table)
$$;
--> statement-breakpoint
CREATE FUNCTION slate.no_rehearsal_stays() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN RAISE EXCEPTION 'a rehearsal must be undone' USING ERRCODE = 'TS011'; END $$;
--> statement-breakpoint
CREATE CONSTRAINT TRIGGER rehearsal_undone AFTER INSERT OR UPDATE ON slate.submission DEFERRABLE INITIALLY DEFERRED
  FOR EACH ROW WHEN (NEW.state = 'rehearsing') EXECUTE FUNCTION slate.no_rehearsal_stays();
--> statement-breakpoint
-- What has not been sent is its sender's alone; the owner of the form sees what was.
ALTER POLICY submission_seen ON slate.submission USING (
  sender_id = (SELECT slate.asking())
  OR EXISTS (SELECT 1 FROM slate.ask a WHERE a.submission_id = id AND a.person_id = (SELECT slate.asking()))
  OR (sent_at IS NOT NULL AND slate.owns_form(form_id)));
--> statement-breakpoint
ALTER POLICY submission_made ON slate.submission WITH CHECK (sender_id = (SELECT slate.asking()) AND state = 'draft' AND number IS NULL AND sent_at IS NULL AND record_id IS NULL AND step IS NULL
  AND EXISTS (SELECT 1 FROM slate.form_release r WHERE r.id = release_id AND r.form_id = submission.form_id));
--> statement-breakpoint
-- Those who are asked may lock it; only its sender may write in it, and only while it is theirs.
DROP POLICY submission_changed ON slate.submission;
--> statement-breakpoint
CREATE POLICY submission_changed ON slate.submission FOR UPDATE USING (
  sender_id = (SELECT slate.asking())
  OR EXISTS (SELECT 1 FROM slate.ask a WHERE a.submission_id = id AND a.person_id = (SELECT slate.asking())))
  WITH CHECK (sender_id = (SELECT slate.asking()) AND state IN ('draft', 'sent-back'));
--> statement-breakpoint
-- The one way a submission moves: the application says what it worked out, and the rules of the path are held here once more, against the release it
-- was sent under and against those who were asked. Its event and whom it asks next are written with it.
CREATE FUNCTION slate.move_submission(of_submission uuid, event text, to_state text, to_step integer, people uuid[], said text, given_number text, given_answers jsonb, happened timestamptz)
RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE me uuid := slate.asking(); s submission; steps jsonb; many integer; is_asked boolean; wanted text;
BEGIN
  SELECT * INTO s FROM submission WHERE id = of_submission FOR UPDATE;
  SELECT coalesce(design->'steps', '[]'::jsonb) INTO steps FROM form_release WHERE id = s.release_id;
  many := jsonb_array_length(steps);
  is_asked := s.state = 'waiting' AND me <> s.sender_id AND EXISTS (SELECT 1 FROM ask WHERE submission_id = s.id AND person_id = me AND open);
  wanted := CASE
    WHEN event = 'send' AND me = s.sender_id AND s.state IN ('draft', 'sent-back') THEN CASE WHEN many = 0 THEN 'kept' ELSE 'waiting 0' END
    WHEN event = 'approve' AND is_asked THEN CASE WHEN s.step + 1 < many THEN 'waiting ' || (s.step + 1) ELSE 'kept' END
    WHEN event = 'send-back' AND is_asked THEN 'sent-back'
    WHEN event = 'decline' AND is_asked THEN 'declined'
    WHEN event = 'withdraw' AND me = s.sender_id AND s.state IN ('waiting', 'sent-back') THEN 'withdrawn' END;
  IF wanted IS DISTINCT FROM to_state || coalesce(' ' || to_step, '') THEN RAISE EXCEPTION 'a submission does not move like this' USING ERRCODE = 'TS010'; END IF;
  IF to_state = 'waiting' AND (cardinality(people) = 0 OR s.sender_id = ANY (people)
    OR EXISTS (SELECT 1 FROM unnest(people) AS one WHERE NOT (steps->to_step->'people') ? one::text)) THEN
    RAISE EXCEPTION 'these people are not those of the step' USING ERRCODE = 'TS010';
  END IF;
  UPDATE ask SET open = false WHERE submission_id = s.id AND open;
  UPDATE submission SET state = to_state, step = to_step, version = s.version + 1, updated_at = happened,
    number = coalesce(s.number, CASE WHEN event = 'send' THEN given_number END),
    answers = CASE WHEN event = 'send' THEN given_answers ELSE s.answers END,
    sent_answers = CASE WHEN event = 'send' THEN given_answers ELSE s.sent_answers END,
    earlier_answers = CASE WHEN event = 'send' THEN s.sent_answers ELSE s.earlier_answers END,
    sent_at = CASE WHEN event = 'send' THEN happened ELSE s.sent_at END WHERE id = s.id;
  INSERT INTO submission_event (submission_id, position, kind, step, by_id, word, answers, at)
    SELECT s.id, coalesce(max(position), 0) + 1, event, CASE WHEN event IN ('send', 'withdraw') THEN NULL ELSE s.step END, me, said, CASE WHEN event = 'send' THEN given_answers END, happened FROM submission_event WHERE submission_id = s.id;
  IF to_state = 'waiting' THEN
    INSERT INTO ask (submission_id, step, person_id, open, since) SELECT s.id, to_step, one, true, happened FROM unnest(people) AS one
      ON CONFLICT (submission_id, step, person_id) DO UPDATE SET open = true, since = happened;
  END IF;
END $$;
--> statement-breakpoint
-- Which record it became; once, by whoever brought it to its end.
CREATE FUNCTION slate.note_kept(of_submission uuid, record uuid, happened timestamptz) RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  UPDATE submission SET record_id = record, updated_at = happened WHERE id = of_submission AND state = 'kept' AND record_id IS NULL AND id = slate.current_submission();
  IF NOT FOUND THEN RAISE EXCEPTION 'this is not kept now' USING ERRCODE = 'TS010'; END IF;
  INSERT INTO submission_event (submission_id, position, kind, by_id, at) SELECT of_submission, coalesce(max(position), 0) + 1, 'keep', slate.asking(), happened FROM submission_event WHERE submission_id = of_submission;
END $$;
--> statement-breakpoint
CREATE FUNCTION slate.rehearse_submission(of_submission uuid) RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  UPDATE submission SET state = 'rehearsing' WHERE id = of_submission AND sender_id = slate.asking() AND state IN ('draft', 'sent-back');
  IF NOT FOUND THEN RAISE EXCEPTION 'this cannot be rehearsed' USING ERRCODE = 'TS010'; END IF;
END $$;
--> statement-breakpoint
DROP POLICY event_made ON slate.submission_event;
--> statement-breakpoint
ALTER TABLE slate.table_form ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY form_known ON slate.table_form FOR SELECT USING ((SELECT slate.may(table_id, 'see')) OR slate.owns_form(form_id) OR (SELECT slate.administers()));
--> statement-breakpoint
-- A form asks to write to a table; who designs the table allows it, or not.
CREATE FUNCTION slate.ask_table(of_table uuid, by_form uuid) RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  IF NOT slate.owns_form(by_form) AND NOT slate.administers() THEN RAISE EXCEPTION 'not their form' USING ERRCODE = 'TS010'; END IF;
  INSERT INTO table_form (table_id, form_id, state, by_id) VALUES (of_table, by_form, 'asked', slate.asking()) ON CONFLICT DO NOTHING;
  PERFORM tell('table:' || of_table);
END $$;
--> statement-breakpoint
CREATE FUNCTION slate.allow_form(of_table uuid, by_form uuid, allowed boolean) RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  IF NOT slate.may(of_table, 'design') THEN RAISE EXCEPTION 'not their table' USING ERRCODE = 'TS010'; END IF;
  IF allowed THEN
    INSERT INTO table_form AS f (table_id, form_id, state, by_id) VALUES (of_table, by_form, 'allowed', slate.asking())
      ON CONFLICT (table_id, form_id) DO UPDATE SET state = 'allowed', by_id = slate.asking(), at = now();
  ELSE DELETE FROM table_form WHERE table_id = of_table AND form_id = by_form; END IF;
  PERFORM tell('table:' || of_table);
END $$;
