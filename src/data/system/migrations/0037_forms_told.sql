-- Those who design a form together hear at once of what one of them keeps. It is of interest while they look, so nothing is left in the outbox.
CREATE FUNCTION slate.tell_form() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  PERFORM pg_notify('slate_live', 'form:' || NEW.id);
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER form_told AFTER UPDATE OF design ON slate.form FOR EACH ROW EXECUTE FUNCTION slate.tell_form();
