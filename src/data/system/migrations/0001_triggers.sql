CREATE SCHEMA IF NOT EXISTS "records";
--> statement-breakpoint
-- A version 7 UUID (RFC 9562): milliseconds first, so that ids sort by the time they were made.
CREATE FUNCTION slate.uuid_v7() RETURNS uuid LANGUAGE sql VOLATILE AS $$
  SELECT encode(
    set_bit(set_bit(
      overlay(uuid_send(gen_random_uuid()) PLACING substring(int8send((extract(epoch FROM clock_timestamp()) * 1000)::bigint) FROM 3) FROM 1 FOR 6),
      52, 1), 53, 1), 'hex')::uuid
$$;
--> statement-breakpoint
-- Who asks, in which release, for which submission: set by the application for one transaction at a time.
CREATE FUNCTION slate.asking() RETURNS uuid LANGUAGE sql STABLE AS $$ SELECT nullif(current_setting('slate.person', true), '')::uuid $$;
--> statement-breakpoint
CREATE FUNCTION slate.current_submission() RETURNS uuid LANGUAGE sql STABLE AS $$ SELECT nullif(current_setting('slate.submission', true), '')::uuid $$;
--> statement-breakpoint
CREATE FUNCTION slate.may(of_table uuid, wanted text) RETURNS boolean LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT EXISTS (SELECT 1 FROM table_grant g JOIN person p ON p.id = slate.asking() WHERE g.table_id = of_table AND g.action = wanted AND g.role = ANY (p.roles))
$$;
--> statement-breakpoint
-- Lookups of a form may be picked from by those who fill it, without the right to see the whole table.
CREATE FUNCTION slate.picks_from(of_table uuid) RETURNS boolean LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT EXISTS (SELECT 1 FROM release_table WHERE table_id = of_table AND use = 'pick' AND release_id = nullif(current_setting('slate.release', true), '')::uuid)
$$;
--> statement-breakpoint
-- Rows are written only for a submission that its path has brought to an end, by the release it was sent under.
CREATE FUNCTION slate.keeps_in(of_table uuid) RETURNS boolean LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT EXISTS (SELECT 1 FROM submission s JOIN release_table r ON r.release_id = s.release_id AND r.use = 'write'
    WHERE s.id = slate.current_submission() AND s.state = 'kept' AND r.table_id = of_table)
$$;
--> statement-breakpoint
CREATE FUNCTION slate.owns_form(of_form uuid) RETURNS boolean LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT EXISTS (SELECT 1 FROM form WHERE id = of_form AND owner_id = slate.asking())
$$;
--> statement-breakpoint
-- The row lock of the counter lasts until the transaction ends, so two people can never get one number.
CREATE FUNCTION slate.next_number(of_table uuid) RETURNS text LANGUAGE sql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  WITH counted AS (
    INSERT INTO number_counter AS c (table_id, year, last) VALUES (of_table, extract(year FROM now())::int, 1)
    ON CONFLICT (table_id, year) DO UPDATE SET last = c.last + 1 RETURNING year, last)
  SELECT t.prefix || '-' || counted.year || '-' || lpad(counted.last::text, greatest(4, length(counted.last::text)), '0') FROM counted, designed_table t WHERE t.id = of_table
$$;
--> statement-breakpoint
CREATE FUNCTION slate.stamp() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE sender uuid;
BEGIN
  IF TG_OP = 'INSERT' THEN
    SELECT s.sender_id INTO sender FROM submission s WHERE s.id = slate.current_submission();
    NEW.created_by := coalesce(NEW.created_by, sender, slate.asking());
    NEW.updated_by := NEW.created_by;
    NEW.updated_at := NEW.created_at;
    NEW.submission_id := coalesce(NEW.submission_id, slate.current_submission());
    NEW.version := 1;
  ELSE
    NEW.id := OLD.id; NEW.number := OLD.number; NEW.created_at := OLD.created_at; NEW.created_by := OLD.created_by;
    NEW.version := OLD.version + 1; NEW.updated_at := now(); NEW.updated_by := coalesce(slate.asking(), OLD.updated_by);
  END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE FUNCTION slate.trail() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE
  row_now jsonb := CASE WHEN TG_OP = 'DELETE' THEN to_jsonb(OLD) ELSE to_jsonb(NEW) END;
BEGIN
  INSERT INTO history (table_id, record_id, version, change, before, after, by_id, submission_id, at)
  VALUES (TG_ARGV[0]::uuid, (row_now->>'id')::uuid, (row_now->>'version')::int,
    CASE TG_OP WHEN 'INSERT' THEN 'made' WHEN 'DELETE' THEN 'removed' ELSE 'changed' END,
    CASE WHEN TG_OP <> 'INSERT' THEN to_jsonb(OLD) END, CASE WHEN TG_OP <> 'DELETE' THEN to_jsonb(NEW) END,
    coalesce((row_now->>'updated_by')::uuid, slate.asking()), (row_now->>'submission_id')::uuid,
    CASE WHEN TG_OP = 'DELETE' THEN now() ELSE (row_now->>'updated_at')::timestamptz END);
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE FUNCTION slate.tell(about text) RETURNS void LANGUAGE sql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  INSERT INTO outbox (topic) VALUES (about);
  SELECT pg_notify('slate_live', about);
$$;
--> statement-breakpoint
CREATE FUNCTION slate.tell_table() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  PERFORM slate.tell('table:' || TG_ARGV[0]);
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE FUNCTION slate.tell_submission() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  PERFORM slate.tell('submission:' || NEW.id);
  PERFORM slate.tell('person:' || NEW.sender_id);
  RETURN NULL;
END $$;
--> statement-breakpoint
-- A draft that keeps itself tells nobody.
CREATE TRIGGER submission_told AFTER UPDATE OF state ON slate.submission FOR EACH ROW EXECUTE FUNCTION slate.tell_submission();
--> statement-breakpoint
CREATE FUNCTION slate.tell_asked() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  PERFORM slate.tell('person:' || NEW.person_id);
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER ask_told AFTER INSERT OR UPDATE ON slate.ask FOR EACH ROW EXECUTE FUNCTION slate.tell_asked();
--> statement-breakpoint
CREATE FUNCTION slate.tell_release() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  PERFORM slate.tell('forms');
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER release_told AFTER INSERT ON slate.form_release FOR EACH ROW EXECUTE FUNCTION slate.tell_release();
--> statement-breakpoint
ALTER TABLE slate.submission ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
ALTER TABLE slate.submission_event ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
ALTER TABLE slate.history ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY submission_seen ON slate.submission FOR SELECT USING (
  sender_id = (SELECT slate.asking())
  OR EXISTS (SELECT 1 FROM slate.ask a WHERE a.submission_id = id AND a.person_id = (SELECT slate.asking()))
  OR slate.owns_form(form_id));
--> statement-breakpoint
CREATE POLICY submission_made ON slate.submission FOR INSERT WITH CHECK (sender_id = (SELECT slate.asking()) AND state = 'draft');
--> statement-breakpoint
CREATE POLICY submission_changed ON slate.submission FOR UPDATE USING (
  sender_id = (SELECT slate.asking())
  OR EXISTS (SELECT 1 FROM slate.ask a WHERE a.submission_id = id AND a.person_id = (SELECT slate.asking())));
--> statement-breakpoint
CREATE POLICY submission_dropped ON slate.submission FOR DELETE USING (sender_id = (SELECT slate.asking()) AND state = 'draft');
--> statement-breakpoint
CREATE POLICY event_seen ON slate.submission_event FOR SELECT USING (EXISTS (SELECT 1 FROM slate.submission s WHERE s.id = submission_id));
--> statement-breakpoint
CREATE POLICY event_made ON slate.submission_event FOR INSERT WITH CHECK (by_id = (SELECT slate.asking()));
--> statement-breakpoint
CREATE POLICY history_seen ON slate.history FOR SELECT USING (slate.may(table_id, 'see'));
