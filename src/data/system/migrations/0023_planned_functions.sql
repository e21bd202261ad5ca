-- PostgreSQL plans the body of a function in its own SQL each time a statement calls it, and of one in PL/pgSQL once for each connection: asking a right took
-- 0.5 ms, and takes 0.05. These are called by policies and triggers, several times for each request. They say what they said before.
CREATE OR REPLACE FUNCTION slate.catalogue_at() RETURNS text LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  RETURN coalesce(nullif(current_setting('slate.catalogue_own', true), ''), (SELECT epoch || ':' || number FROM catalogue));
END $$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.may(of_table uuid, wanted text) RETURNS boolean LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  RETURN EXISTS (SELECT 1 FROM access_grant g WHERE g.table_id = of_table AND g.action = wanted AND g.where_rule IS NULL AND slate.is_for(g, slate.asking()));
END $$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.may_form(of_form uuid, wanted text) RETURNS boolean LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  RETURN EXISTS (SELECT 1 FROM access_grant g WHERE g.form_id = of_form AND g.action = wanted AND slate.is_for(g, slate.asking()));
END $$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.is_for(g slate.access_grant, who uuid) RETURNS boolean LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  RETURN EXISTS (SELECT 1 FROM person p WHERE p.id = who AND p.ended_at IS NULL
    AND (num_nonnulls(g.role, g.group_id, g.person_id) = 0 OR g.person_id = who OR g.role = ANY (p.roles) OR g.group_id = ANY (slate.groups_of(who))));
END $$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.groups_of(who uuid) RETURNS uuid[] LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  RETURN (
  WITH RECURSIVE inside AS (
    SELECT group_id FROM group_member WHERE person_id = who
    UNION SELECT m.group_id FROM group_member m JOIN inside i ON m.member_id = i.group_id)
  SELECT coalesce(array_agg(group_id), '{}') FROM inside);
END $$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.keeps_in(of_table uuid) RETURNS boolean LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  RETURN EXISTS (SELECT 1 FROM submission s JOIN release_table r ON r.release_id = s.release_id AND r.use = 'write'
    JOIN table_form f ON f.table_id = r.table_id AND f.form_id = s.form_id AND f.state = 'allowed'
    WHERE s.id = slate.current_submission() AND s.state IN ('kept', 'rehearsing') AND r.table_id = of_table);
END $$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.picks_from(of_table uuid) RETURNS boolean LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  RETURN EXISTS (SELECT 1 FROM release_table WHERE table_id = of_table AND use = 'pick' AND release_id = nullif(current_setting('slate.release', true), '')::uuid);
END $$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.owns_form(of_form uuid) RETURNS boolean LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  RETURN EXISTS (SELECT 1 FROM form WHERE id = of_form AND owner_id = slate.asking());
END $$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.administers() RETURNS boolean LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  RETURN EXISTS (SELECT 1 FROM person WHERE id = slate.asking() AND ended_at IS NULL AND 'administrator' = ANY (roles));
END $$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.next_number(of_table uuid) RETURNS text LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  RETURN (SELECT number FROM take_numbers(of_table, 1) AS number);
END $$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.take_numbers(of_table uuid, many integer) RETURNS SETOF text LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  RETURN QUERY
  WITH counted AS (
    INSERT INTO number_counter AS c (table_id, year, last)
    SELECT of_table, CASE t.numbering WHEN 'yearly' THEN extract(year FROM now())::int ELSE 0 END, many FROM designed_table t WHERE t.id = of_table
    ON CONFLICT (table_id, year) DO UPDATE SET last = c.last + many RETURNING last)
  SELECT t.prefix || CASE t.numbering WHEN 'running' THEN '-' ELSE '-' || extract(year FROM now())::int || '-' END || lpad(n::text, greatest(4, length(n::text)), '0')
  FROM counted, designed_table t, generate_series(counted.last - many + 1, counted.last) AS n WHERE t.id = of_table ORDER BY n;
END $$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.tell(about text) RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  INSERT INTO outbox (topic) VALUES (about);
  PERFORM pg_notify('slate_live', about);
END $$;
