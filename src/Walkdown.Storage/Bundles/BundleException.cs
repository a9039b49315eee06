using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;

namespace Walkdown.Storage;

/// <summary>A bundle that cannot be taken, with its sentence. Nothing was changed.</summary>
public sealed class BundleException(Message what) : Exception(what.Code)
{
    public Message What { get; } = what;
}
