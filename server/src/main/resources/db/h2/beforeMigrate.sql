-- Changes of the schema may be written together: each would write the whole of it anew. Nobody was promised anything yet.
set write_delay 2000;
