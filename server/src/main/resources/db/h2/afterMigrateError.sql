-- From here on a command is answered when it is written.
set write_delay 0;
