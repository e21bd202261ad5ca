CREATE TABLE "slate"."notice" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "slate"."notice_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"person_id" uuid NOT NULL,
	"submission_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"position" integer NOT NULL,
	"for_id" uuid,
	"due_day" date,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"seen_at" timestamp with time zone,
	"mailed_at" timestamp with time zone,
	CONSTRAINT "notice_kind_known" CHECK ("slate"."notice"."kind" IN ('asked', 'kept', 'sent-back', 'declined', 'withdrawn', 'remark', 'due', 'late'))
);
--> statement-breakpoint
CREATE TABLE "slate"."telling" (
	"person_id" uuid PRIMARY KEY NOT NULL,
	"by_mail" text DEFAULT 'at-once' NOT NULL,
	"mailed_day" date,
	"calendar_hash" text,
	CONSTRAINT "telling_calendar_hash_unique" UNIQUE("calendar_hash")
);
--> statement-breakpoint
ALTER TABLE "slate"."notice" ADD CONSTRAINT "notice_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "slate"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."notice" ADD CONSTRAINT "notice_submission_id_submission_id_fk" FOREIGN KEY ("submission_id") REFERENCES "slate"."submission"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."notice" ADD CONSTRAINT "notice_for_id_person_id_fk" FOREIGN KEY ("for_id") REFERENCES "slate"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."telling" ADD CONSTRAINT "telling_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "slate"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "notice_once" ON "slate"."notice" USING btree ("submission_id","person_id","kind","position");--> statement-breakpoint
CREATE INDEX "notice_person" ON "slate"."notice" USING btree ("person_id","id");--> statement-breakpoint
CREATE INDEX "notice_unseen" ON "slate"."notice" USING btree ("person_id") WHERE "slate"."notice"."seen_at" IS NULL;--> statement-breakpoint
CREATE INDEX "notice_unmailed" ON "slate"."notice" USING btree ("id") WHERE "slate"."notice"."mailed_at" IS NULL;
--> statement-breakpoint
ALTER TABLE slate.notice ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY notice_own ON slate.notice FOR SELECT USING (person_id = (SELECT slate.asking()));
--> statement-breakpoint
CREATE POLICY notice_looked_at ON slate.notice FOR UPDATE USING (person_id = (SELECT slate.asking()));
--> statement-breakpoint
ALTER TABLE slate.telling ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY telling_own ON slate.telling USING (person_id = (SELECT slate.asking())) WITH CHECK (person_id = (SELECT slate.asking()));
--> statement-breakpoint
-- One notice for each event and person, however often it is asked for. Who has left is told nothing.
CREATE FUNCTION slate.put_notice(to_whom uuid, of_submission uuid, what text, of_event integer, for_whom uuid, happened timestamptz) RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  INSERT INTO notice (person_id, submission_id, kind, position, for_id, at)
    SELECT p.id, of_submission, what, of_event, for_whom, happened FROM person p WHERE p.id = to_whom AND p.ended_at IS NULL ON CONFLICT DO NOTHING;
  IF FOUND THEN PERFORM slate.tell('person:' || to_whom); END IF;
END $$;
--> statement-breakpoint
-- Nobody but the triggers and the jobs of this schema writes notices.
REVOKE EXECUTE ON FUNCTION slate.put_notice(uuid, uuid, text, integer, uuid, timestamptz) FROM PUBLIC;
--> statement-breakpoint
-- Whoever is asked is told, and whoever stands in for them today; not the sender, who decides nothing of their own. Whom it does not ask any more need not look.
CREATE FUNCTION slate.notice_of_ask() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE sender uuid; last_event integer;
BEGIN
  IF NEW.open THEN
    SELECT s.sender_id INTO sender FROM submission s WHERE s.id = NEW.submission_id;
    SELECT coalesce(max(position), 0) INTO last_event FROM submission_event WHERE submission_id = NEW.submission_id;
    PERFORM slate.put_notice(one, NEW.submission_id, 'asked', last_event, nullif(NEW.person_id, one), NEW.since)
      FROM (SELECT NEW.person_id UNION SELECT slate.stand_ins_of(NEW.person_id)) AS told (one) WHERE one <> sender;
  ELSE
    UPDATE notice SET seen_at = now() WHERE submission_id = NEW.submission_id AND kind IN ('asked', 'due', 'late') AND seen_at IS NULL AND NEW.person_id IN (person_id, for_id);
  END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER ask_noticed AFTER INSERT OR UPDATE OF open, since ON slate.ask FOR EACH ROW EXECUTE FUNCTION slate.notice_of_ask();
--> statement-breakpoint
-- What was decided is told to its sender, a withdrawal to those who were asked and have not answered, a word to everybody whom it is for; nobody is told what they did themselves.
CREATE FUNCTION slate.notice_of_event() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE s submission; sent integer;
BEGIN
  SELECT * INTO s FROM submission WHERE id = NEW.submission_id;
  SELECT coalesce(max(position), 0) INTO sent FROM submission_event WHERE submission_id = s.id AND kind = 'send';
  PERFORM slate.put_notice(one, s.id, what, NEW.position, NULL, NEW.at) FROM (
    SELECT s.sender_id, 'kept' WHERE NEW.kind = 'approve' AND s.state = 'kept'
    UNION SELECT s.sender_id, 'sent-back' WHERE NEW.kind = 'send-back'
    UNION SELECT s.sender_id, 'declined' WHERE NEW.kind = 'decline'
    UNION SELECT n.person_id, 'withdrawn' FROM notice n WHERE NEW.kind = 'withdraw' AND n.submission_id = s.id AND n.kind = 'asked' AND n.position >= sent
      AND NOT EXISTS (SELECT 1 FROM submission_event e WHERE e.submission_id = s.id AND e.position > n.position AND e.by_id = n.person_id AND e.kind IN ('approve', 'hand-over'))
    UNION SELECT s.sender_id, 'remark' WHERE NEW.kind = 'remark'
    UNION SELECT a.person_id, 'remark' FROM ask a WHERE NEW.kind = 'remark' AND a.submission_id = s.id AND a.open
    UNION SELECT e.by_id, 'remark' FROM submission_event e WHERE NEW.kind = 'remark' AND e.submission_id = s.id AND e.kind = 'remark') AS told (one, what)
  WHERE one <> NEW.by_id;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER event_noticed AFTER INSERT ON slate.submission_event FOR EACH ROW EXECUTE FUNCTION slate.notice_of_event();
--> statement-breakpoint
-- Whose calendar has this secret in its address.
CREATE FUNCTION slate.calendar_of(hash text) RETURNS uuid LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT p.id FROM telling t JOIN person p ON p.id = t.person_id WHERE t.calendar_hash = hash AND p.ended_at IS NULL
$$;
