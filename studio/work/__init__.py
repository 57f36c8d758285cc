"""Long work outside of requests: tasks in the database, done by workers on this machine or on others.

A task is a function with `@task()` of `django_tasks`; `enqueue` puts it in the database within the transaction that
asks for it. `manage.py worker` does what is there. A worker says that it is at a task by counting on its `Beat`; a task
whose count stands still has lost its worker, and another takes it up.
"""
