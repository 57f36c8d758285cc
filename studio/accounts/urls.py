from django.contrib.auth import views as auth
from django.urls import path, reverse_lazy

from studio.accounts import hands, views

app_name = "accounts"

urlpatterns = [
    path("sign-up/", views.sign_up_page, name="sign-up"),
    path("log-in/", views.LogIn.as_view(), name="login"),
    path("log-out/", auth.LogoutView.as_view(), name="logout"),
    path("kitchen/", views.kitchen_page, name="kitchen"),
    path("kitchen/live/", views.KitchenLive.as_view(), name="live"),
    path("kitchen/hands/", hands.hands_page, name="hands"),
    path("kitchen/five-taps/", views.five_taps, name="five-taps"),
    path("password/forgotten/", views.Forgotten.as_view(), name="forgotten"),
    path("password/sent/", auth.PasswordResetDoneView.as_view(template_name="accounts/sent.html"), name="sent"),
    path(
        "password/new/<uidb64>/<token>/",
        auth.PasswordResetConfirmView.as_view(
            template_name="accounts/new_password.html", success_url=reverse_lazy("accounts:login")
        ),
        name="new-password",
    ),
]
