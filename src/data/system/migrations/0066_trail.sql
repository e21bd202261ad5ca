CREATE TABLE "slate"."trail" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "slate"."trail_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"position" bigint,
	"seal" text,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"by_id" uuid,
	"token_id" uuid,
	"address" text,
	"subject" text NOT NULL,
	"verb" text NOT NULL,
	"subject_id" uuid,
	"label" text DEFAULT '' NOT NULL,
	"changed" jsonb DEFAULT '{}'::jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "slate"."trail_head" (
	"one" boolean PRIMARY KEY DEFAULT true NOT NULL,
	"last" bigint DEFAULT 0 NOT NULL,
	"seal" text DEFAULT '' NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX "trail_position" ON "slate"."trail" USING btree ("position");--> statement-breakpoint
CREATE INDEX "trail_unsealed" ON "slate"."trail" USING btree ("id") WHERE "slate"."trail"."position" IS NULL;--> statement-breakpoint
CREATE INDEX "trail_by" ON "slate"."trail" USING btree ("by_id","id");--> statement-breakpoint
INSERT INTO slate.trail_head DEFAULT VALUES;
--> statement-breakpoint
-- The address a request came from, for the length of a transaction.
CREATE FUNCTION slate.coming_from() RETURNS text LANGUAGE sql STABLE AS $$ SELECT nullif(current_setting('slate.address', true), '') $$;
--> statement-breakpoint
-- What a line is about is called what it was called then.
CREATE FUNCTION slate.trail_label(about text, line jsonb) RETURNS text LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  RETURN coalesce(left(CASE
    WHEN about IN ('right', 'form-writes') AND line->>'table_id' IS NOT NULL THEN (SELECT label FROM designed_table WHERE id = (line->>'table_id')::uuid)
    WHEN about IN ('right', 'outside-words') THEN (SELECT design->>'title' FROM form WHERE id = (line->>'form_id')::uuid)
    WHEN about = 'form' THEN line->'design'->>'title'
    WHEN about = 'release' THEN line->'design'->>'title'
    WHEN about = 'outside-link' THEN line->>'label' || ' · ' || (SELECT design->>'title' FROM form WHERE id = (line->>'form_id')::uuid)
    WHEN about = 'column' THEN (SELECT label FROM designed_table WHERE id = (line->>'table_id')::uuid) || ' · ' || (line->>'label')
    WHEN about = 'linked-table' THEN (SELECT label FROM designed_table WHERE id = (line->>'table_id')::uuid)
    WHEN about IN ('absence', 'password', 'invitation', 'session') THEN (SELECT name FROM person WHERE id = (line->>'person_id')::uuid)
    WHEN about = 'look' THEN (SELECT name FROM person WHERE id = (line->>'as_id')::uuid)
    ELSE coalesce(line->>'label', line->>'name') END, 300), '');
END $$;
--> statement-breakpoint
-- Notes a line about a row: first what it is about, then the columns that are told of, those of secrets with an exclamation mark.
CREATE FUNCTION slate.note_trail() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE
  about text := TG_ARGV[0];
  was jsonb := CASE WHEN TG_OP <> 'INSERT' THEN to_jsonb(OLD) END;
  line jsonb := CASE WHEN TG_OP = 'DELETE' THEN to_jsonb(OLD) ELSE to_jsonb(NEW) END;
  is_now jsonb := CASE WHEN TG_OP <> 'DELETE' THEN to_jsonb(NEW) END;
  told jsonb;
BEGIN
  -- The person of a link is told of by the link; columns that come with their table, by the table.
  IF about = 'person' AND line->'roles' = '[]' THEN RETURN NULL; END IF;
  IF about = 'column' AND TG_OP = 'INSERT' AND EXISTS (SELECT 1 FROM designed_table WHERE id = (line->>'table_id')::uuid AND created_at = now()) THEN RETURN NULL; END IF;
  SELECT coalesce(jsonb_object_agg(rtrim(key, '!'), CASE WHEN key LIKE '%!' THEN '"secret"' ELSE jsonb_build_array(left(was->>key, 300), left(is_now->>key, 300)) END), '{}') INTO told
    FROM unnest(string_to_array(TG_ARGV[1], ',')) AS key WHERE was->rtrim(key, '!') IS DISTINCT FROM is_now->rtrim(key, '!') AND coalesce(was->>rtrim(key, '!'), is_now->>rtrim(key, '!')) IS NOT NULL;
  IF TG_OP = 'UPDATE' AND told = '{}' THEN RETURN NULL; END IF;
  INSERT INTO trail (by_id, token_id, address, subject, verb, subject_id, label, changed)
    VALUES (coalesce(slate.asking(), CASE WHEN about IN ('session', 'password') THEN (line->>'person_id')::uuid END), slate.token(), coalesce(slate.coming_from(), CASE WHEN about = 'session' AND TG_OP = 'INSERT' THEN nullif(line->>'ip_address', '') END),
      about, CASE TG_OP WHEN 'INSERT' THEN 'made' WHEN 'DELETE' THEN 'removed' ELSE 'changed' END,
      coalesce(CASE WHEN about <> 'column' THEN line->>'id' END, line->>'table_id', line->>'form_id', line->>'person_id')::uuid, slate.trail_label(about, line), told);
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER trail_person AFTER INSERT OR UPDATE OR DELETE ON slate.person FOR EACH ROW EXECUTE FUNCTION slate.note_trail('person', 'name,email,place,roles,manager_id,deputy_id,ended_at');
--> statement-breakpoint
CREATE TRIGGER trail_group AFTER INSERT OR UPDATE OR DELETE ON slate.person_group FOR EACH ROW EXECUTE FUNCTION slate.note_trail('group', 'label');
--> statement-breakpoint
CREATE TRIGGER trail_right AFTER INSERT OR UPDATE OR DELETE ON slate.access_grant FOR EACH ROW EXECUTE FUNCTION slate.note_trail('right', 'action,role,group_id,person_id,where_rule');
--> statement-breakpoint
CREATE TRIGGER trail_form_made AFTER INSERT OR DELETE ON slate.form FOR EACH ROW EXECUTE FUNCTION slate.note_trail('form', 'owner_id');
--> statement-breakpoint
CREATE TRIGGER trail_form AFTER UPDATE OF owner_id, opening ON slate.form FOR EACH ROW EXECUTE FUNCTION slate.note_trail('form', 'owner_id,opening');
--> statement-breakpoint
CREATE TRIGGER trail_release AFTER INSERT OR DELETE ON slate.form_release FOR EACH ROW EXECUTE FUNCTION slate.note_trail('release', 'number,note');
--> statement-breakpoint
CREATE TRIGGER trail_table AFTER INSERT OR UPDATE OR DELETE ON slate.designed_table FOR EACH ROW EXECUTE FUNCTION slate.note_trail('table', 'key,label,prefix,title,numbering,together,checks,matches');
--> statement-breakpoint
CREATE TRIGGER trail_column AFTER INSERT OR UPDATE OR DELETE ON slate.designed_column FOR EACH ROW EXECUTE FUNCTION slate.note_trail('column', 'key,label,kind,required,is_unique,decimals,unit,target_id,list_id,personal,default_value,formula,locked,retired');
--> statement-breakpoint
CREATE TRIGGER trail_list AFTER INSERT OR UPDATE OR DELETE ON slate.choice_list FOR EACH ROW EXECUTE FUNCTION slate.note_trail('list', 'label,description,choices');
--> statement-breakpoint
CREATE TRIGGER trail_source AFTER INSERT OR UPDATE OR DELETE ON slate.source FOR EACH ROW EXECUTE FUNCTION slate.note_trail('source', 'label,address,secret!');
--> statement-breakpoint
CREATE TRIGGER trail_link AFTER INSERT OR UPDATE OR DELETE ON slate.link FOR EACH ROW EXECUTE FUNCTION slate.note_trail('linked-table', 'source_id,every');
--> statement-breakpoint
CREATE TRIGGER trail_form_writes AFTER INSERT OR UPDATE OR DELETE ON slate.table_form FOR EACH ROW EXECUTE FUNCTION slate.note_trail('form-writes', 'form_id,state');
--> statement-breakpoint
CREATE TRIGGER trail_token AFTER INSERT OR UPDATE OF ended_at OR DELETE ON slate.api_token FOR EACH ROW EXECUTE FUNCTION slate.note_trail('token', 'person_id,expires_at,ended_at');
--> statement-breakpoint
CREATE TRIGGER trail_address AFTER INSERT OR UPDATE OF label, url, person_id, table_ids, form_ids, kinds, stopped_at OR DELETE ON slate.event_address FOR EACH ROW EXECUTE FUNCTION slate.note_trail('address', 'label,url,person_id,table_ids,form_ids,kinds,stopped_at,stopped_because');
--> statement-breakpoint
CREATE TRIGGER trail_outside_link AFTER INSERT OR UPDATE OF stopped_at OR DELETE ON slate.form_link FOR EACH ROW EXECUTE FUNCTION slate.note_trail('outside-link', 'ends_at,most,stopped_at');
--> statement-breakpoint
CREATE TRIGGER trail_outside_words AFTER INSERT OR UPDATE OR DELETE ON slate.form_outside FOR EACH ROW EXECUTE FUNCTION slate.note_trail('outside-words', 'welcome,thanks,lookups,origins,mail_to');
--> statement-breakpoint
CREATE TRIGGER trail_workspace AFTER UPDATE ON slate.workspace FOR EACH ROW EXECUTE FUNCTION slate.note_trail('workspace', 'name,zone,currency,locale,workdays,opens,closes,holidays_of,closed');
--> statement-breakpoint
CREATE TRIGGER trail_absence AFTER INSERT OR UPDATE OR DELETE ON slate.absence FOR EACH ROW EXECUTE FUNCTION slate.note_trail('absence', 'from_day,until_day,stand_in_id,ended_at');
--> statement-breakpoint
CREATE TRIGGER trail_password AFTER INSERT OR UPDATE OF password OR DELETE ON slate.account FOR EACH ROW EXECUTE FUNCTION slate.note_trail('password', 'password!');
--> statement-breakpoint
CREATE TRIGGER trail_invitation AFTER INSERT ON slate.invitation FOR EACH ROW EXECUTE FUNCTION slate.note_trail('invitation', 'expires_at');
--> statement-breakpoint
CREATE TRIGGER trail_session AFTER INSERT ON slate.session FOR EACH ROW EXECUTE FUNCTION slate.note_trail('session', 'user_agent');
--> statement-breakpoint
-- One that has run out ends by itself, and is nobody's doing.
CREATE TRIGGER trail_session_ended AFTER DELETE ON slate.session FOR EACH ROW WHEN (OLD.expires_at > now()) EXECUTE FUNCTION slate.note_trail('session', 'user_agent');
--> statement-breakpoint
CREATE TRIGGER trail_look AFTER INSERT ON slate.looked_as FOR EACH ROW EXECUTE FUNCTION slate.note_trail('look', '');
--> statement-breakpoint
-- Somebody was not let in. What was typed is kept nowhere unless it is somebody's address: some type their password there.
CREATE FUNCTION slate.note_refused(address text, came_from text) RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  INSERT INTO trail (address, subject, verb, subject_id, label) SELECT nullif(came_from, ''), 'session', 'refused', p.id, coalesce(p.name, '')
    FROM (SELECT 1) AS one LEFT JOIN person p ON lower(p.email) = lower(note_refused.address);
END $$;
--> statement-breakpoint
-- What a seal is made of: the one before, and all of the line.
CREATE FUNCTION slate.trail_seal(before text, place bigint, line slate.trail) RETURNS text LANGUAGE sql STABLE AS $$
  SELECT encode(sha256(convert_to(before || jsonb_build_array(place, line.id, extract(epoch FROM line.at), line.by_id, line.token_id, line.address, line.subject, line.verb, line.subject_id, line.label, line.changed)::text, 'UTF8')), 'hex')
$$;
--> statement-breakpoint
-- Seals what can be seen by now, in the order of ids, one after the other.
CREATE FUNCTION slate.seal_trail() RETURNS integer LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE head trail_head; line trail; many integer := 0;
BEGIN
  SELECT * INTO head FROM trail_head FOR UPDATE SKIP LOCKED;
  IF NOT FOUND THEN RETURN 0; END IF;
  FOR line IN SELECT * FROM trail WHERE position IS NULL ORDER BY id LIMIT 5000 LOOP
    head.last := head.last + 1;
    head.seal := slate.trail_seal(head.seal, head.last, line);
    UPDATE trail SET position = head.last, seal = head.seal WHERE id = line.id;
    many := many + 1;
  END LOOP;
  UPDATE trail_head SET last = head.last, seal = head.seal WHERE many > 0;
  RETURN many;
END $$;
--> statement-breakpoint
-- Nothing in it is changed, by whomever: a line is sealed once, and stays.
CREATE FUNCTION slate.trail_stays() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF TG_OP = 'UPDATE' AND OLD.seal IS NULL AND OLD.position IS NULL AND to_jsonb(NEW) - 'seal' - 'position' = to_jsonb(OLD) - 'seal' - 'position' THEN RETURN NEW; END IF;
  RAISE EXCEPTION 'the trail stays as it is' USING ERRCODE = 'TS010';
END $$;
--> statement-breakpoint
CREATE TRIGGER trail_stays BEFORE UPDATE OR DELETE ON slate.trail FOR EACH ROW EXECUTE FUNCTION slate.trail_stays();
--> statement-breakpoint
-- The first line whose seal is not what it should be, or after which one is missing; null where all is whole.
CREATE FUNCTION slate.trail_broken() RETURNS bigint LANGUAGE sql STABLE AS $$
  SELECT min(place) FROM (
    SELECT t.position AS place FROM (SELECT t.position, t.seal, lag(t.position, 1, 0::bigint) OVER w AS place_before, lag(t.seal, 1, '') OVER w AS before, t AS line FROM slate.trail t WHERE t.position IS NOT NULL WINDOW w AS (ORDER BY t.position)) t
      WHERE t.place_before <> t.position - 1 OR t.seal IS DISTINCT FROM slate.trail_seal(t.before, t.position, t.line)
    UNION ALL SELECT h.last FROM slate.trail_head h WHERE h.last > 0 AND NOT EXISTS (SELECT 1 FROM slate.trail t WHERE t.position = h.last AND t.seal = h.seal)) AS wrong
$$;
--> statement-breakpoint
ALTER TABLE slate.trail ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY trail_seen ON slate.trail FOR SELECT USING ((SELECT slate.administers()));
