using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace Walkdown.Access;

/// <summary>What the door is made of.</summary>
public static class AccessServices
{
    /// <summary>Work of a passphrase's hash (PBKDF2, SHA-512): about a tenth of a second, for us and for whoever guesses.</summary>
    private const int Iterations = 210_000;

    /// <param name="root">The data folder.</param>
    public static IServiceCollection AddAccess(this IServiceCollection services, string root)
    {
        services.AddSingleton(new AccessStore(root));
        services.AddSingleton<AccessBook>();
        services.AddDbContext<AccessDb>((of, options) => of.GetRequiredService<AccessStore>().Configure(options));
        services
            .AddIdentityCore<Account>(options =>
            {
                options.Stores.SchemaVersion = IdentitySchemaVersions.Version3;
                options.Lockout.MaxFailedAccessAttempts = 6;
                options.Lockout.DefaultLockoutTimeSpan = TimeSpan.FromMinutes(10);
                // One rule says what holds: PassphraseRule. Signs of each sort make nothing longer.
                options.Password.RequiredLength = 1;
                options.Password.RequireDigit = false;
                options.Password.RequireLowercase = false;
                options.Password.RequireUppercase = false;
                options.Password.RequireNonAlphanumeric = false;
                options.User.AllowedUserNameCharacters = "";
            })
            .AddEntityFrameworkStores<AccessDb>()
            .AddPasswordValidator<PassphraseRule>();
        services.Configure<PasswordHasherOptions>(o => o.IterationCount = Iterations);
        services.AddScoped<IPasskeyHandler<Account>, PasskeyHandler<Account>>();
        services.AddScoped<Admission>();
        return services;
    }
}
