CREATE TABLE "slate"."event" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "slate"."event_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"position" bigint,
	"kind" text NOT NULL,
	"table_id" uuid,
	"record_id" uuid,
	"last_id" uuid,
	"version" integer,
	"history_id" bigint,
	"form_id" uuid,
	"submission_id" uuid,
	"place" integer,
	"by_id" uuid,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "event_about_one" CHECK (num_nonnulls("slate"."event"."table_id", "slate"."event"."form_id") = 1)
);
--> statement-breakpoint
CREATE TABLE "slate"."event_address" (
	"id" uuid PRIMARY KEY NOT NULL,
	"label" text NOT NULL,
	"url" text NOT NULL,
	"person_id" uuid NOT NULL,
	"table_ids" uuid[] NOT NULL,
	"form_ids" uuid[] NOT NULL,
	"kinds" text[] NOT NULL,
	"secret" "bytea" NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"made_by_id" uuid NOT NULL,
	"made_at" timestamp with time zone DEFAULT now() NOT NULL,
	"position" bigint NOT NULL,
	"tries" integer DEFAULT 0 NOT NULL,
	"failing_since" timestamp with time zone,
	"next_at" timestamp with time zone,
	"claimed_until" timestamp with time zone,
	"stopped_at" timestamp with time zone,
	"stopped_because" text,
	CONSTRAINT "event_address_url" CHECK ("slate"."event_address"."url" ~ '^https?://'),
	CONSTRAINT "event_address_label" CHECK ("slate"."event_address"."label" ~ '\S' AND length("slate"."event_address"."label") <= 200)
);
--> statement-breakpoint
CREATE TABLE "slate"."event_counter" (
	"one" boolean PRIMARY KEY DEFAULT true NOT NULL,
	"last" bigint DEFAULT 0 NOT NULL,
	"gone" bigint DEFAULT 0 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "slate"."event_delivery" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"address_id" uuid NOT NULL,
	"position" bigint,
	"kind" text NOT NULL,
	"subject" text DEFAULT '' NOT NULL,
	"status" integer,
	"fault" text,
	"ms" integer NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "slate"."event_address" ADD CONSTRAINT "event_address_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "slate"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."event_address" ADD CONSTRAINT "event_address_made_by_id_person_id_fk" FOREIGN KEY ("made_by_id") REFERENCES "slate"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."event_delivery" ADD CONSTRAINT "event_delivery_address_id_event_address_id_fk" FOREIGN KEY ("address_id") REFERENCES "slate"."event_address"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "event_position" ON "slate"."event" USING btree ("position");--> statement-breakpoint
CREATE INDEX "event_unplaced" ON "slate"."event" USING btree ("id") WHERE "slate"."event"."position" IS NULL;--> statement-breakpoint
CREATE INDEX "event_delivery_address" ON "slate"."event_delivery" USING btree ("address_id","id");--> statement-breakpoint
INSERT INTO slate.event_counter DEFAULT VALUES;
--> statement-breakpoint
-- What the history says is noted for programs too. A record that goes for good was told of when it was removed.
CREATE FUNCTION slate.note_changes() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  INSERT INTO event (kind, table_id, record_id, last_id, version, history_id, by_id, at)
    SELECT CASE WHEN last_id IS NOT NULL THEN 'records.imported' WHEN change IN ('made', 'imported') THEN 'record.made'
        WHEN change = 'removed' OR (before->>'removed_at' IS NULL AND after->>'removed_at' IS NOT NULL) THEN 'record.removed'
        WHEN before->>'removed_at' IS NOT NULL AND after->>'removed_at' IS NULL THEN 'record.restored' ELSE 'record.changed' END,
      table_id, record_id, last_id, version, id, by_id, at FROM noted WHERE change <> 'removed' OR before->>'removed_at' IS NULL ORDER BY id;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER note_changes AFTER INSERT ON slate.history REFERENCING NEW TABLE AS noted FOR EACH STATEMENT EXECUTE FUNCTION slate.note_changes();
--> statement-breakpoint
CREATE FUNCTION slate.note_path() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE what text := CASE WHEN NEW.kind = 'send' THEN 'submission.sent' WHEN NEW.kind IN ('approve', 'decline', 'send-back', 'return') THEN 'submission.decided' WHEN NEW.kind = 'withdraw' THEN 'submission.withdrawn' WHEN NEW.kind = 'keep' THEN 'submission.kept' END;
BEGIN
  IF what IS NOT NULL THEN
    INSERT INTO event (kind, form_id, submission_id, place, by_id, at) SELECT what, form_id, id, NEW.position, NEW.by_id, NEW.at FROM submission WHERE id = NEW.submission_id;
  END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER note_path AFTER INSERT ON slate.submission_event FOR EACH ROW EXECUTE FUNCTION slate.note_path();
--> statement-breakpoint
-- Gives those that can be seen by now their places, in the order of their ids. One after the other: the counter is held until they are seen. What changes a record waits for whoever
-- changed it before, and so has the greater id and is never seen without the other. Gives how many; 0 also while somebody else does it.
CREATE FUNCTION slate.put_in_order() RETURNS integer LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE base bigint; many integer;
BEGIN
  SELECT last INTO base FROM event_counter FOR UPDATE SKIP LOCKED;
  IF base IS NULL THEN RETURN 0; END IF;
  UPDATE event e SET position = base + n.at FROM (SELECT id, row_number() OVER (ORDER BY id) AS at FROM event WHERE position IS NULL ORDER BY id LIMIT 10000) n WHERE e.id = n.id;
  GET DIAGNOSTICS many = ROW_COUNT;
  IF many > 0 THEN UPDATE event_counter SET last = base + many; END IF;
  RETURN many;
END $$;
--> statement-breakpoint
ALTER TABLE slate.event ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
-- Whoever sees the record, or every submission of the form. That records were imported is told those who see all.
CREATE POLICY event_seen ON slate.event FOR SELECT USING (
  CASE WHEN table_id IS NULL THEN slate.may_form(form_id, 'see-all')
    ELSE slate.may(table_id, 'see') AND (NOT slate.is_limited(table_id) OR (last_id IS NULL AND slate.sees_record(table_id, record_id))) END);
--> statement-breakpoint
ALTER TABLE slate.event_address ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
ALTER TABLE slate.event_delivery ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY event_address_seen ON slate.event_address FOR SELECT USING ((SELECT slate.administers()));
--> statement-breakpoint
CREATE POLICY event_delivery_seen ON slate.event_delivery FOR SELECT USING ((SELECT slate.administers()));
--> statement-breakpoint
-- Makes an address, told what happens from now on; or changes one. `drawn_on`: its version when it was looked at, 0 for a new one. False where somebody changed it meanwhile,
-- or whoever it sees as is not here. One that failed is tried again at once.
CREATE FUNCTION slate.put_event_address(of_id uuid, called text, to_url text, acts_for uuid, of_tables uuid[], of_forms uuid[], of_kinds text[], sealed bytea, happened timestamptz, drawn_on integer) RETURNS boolean LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  PERFORM slate.only_administrators();
  IF NOT EXISTS (SELECT 1 FROM person WHERE id = acts_for AND ended_at IS NULL AND roles <> '{}') THEN RETURN false; END IF;
  IF drawn_on = 0 THEN
    INSERT INTO event_address (id, label, url, person_id, table_ids, form_ids, kinds, secret, made_by_id, made_at, position)
      SELECT of_id, called, to_url, acts_for, of_tables, of_forms, of_kinds, sealed, slate.asking(), happened, last FROM event_counter ON CONFLICT (id) DO NOTHING;
    RETURN FOUND;
  END IF;
  UPDATE event_address SET label = called, url = to_url, person_id = acts_for, table_ids = of_tables, form_ids = of_forms, kinds = of_kinds, version = version + 1, next_at = NULL WHERE id = of_id AND version = drawn_on;
  RETURN FOUND;
END $$;
--> statement-breakpoint
-- Stops an address, or lets it go on: from where it stopped, or from after an event that is still there.
CREATE FUNCTION slate.stop_event_address(of_id uuid, happened timestamptz) RETURNS boolean LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  PERFORM slate.only_administrators();
  UPDATE event_address SET stopped_at = coalesce(stopped_at, happened), version = version + 1 WHERE id = of_id;
  RETURN FOUND;
END $$;
--> statement-breakpoint
CREATE FUNCTION slate.resume_event_address(of_id uuid, from_place bigint) RETURNS boolean LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  PERFORM slate.only_administrators();
  UPDATE event_address SET stopped_at = NULL, stopped_because = NULL, tries = 0, failing_since = NULL, next_at = NULL, claimed_until = NULL, version = version + 1,
    position = least(coalesce(from_place - 1, position), (SELECT last FROM event_counter)) WHERE id = of_id;
  RETURN FOUND;
END $$;
--> statement-breakpoint
CREATE FUNCTION slate.drop_event_address(of_id uuid) RETURNS boolean LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  PERFORM slate.only_administrators();
  DELETE FROM event_address WHERE id = of_id;
  RETURN FOUND;
END $$;
