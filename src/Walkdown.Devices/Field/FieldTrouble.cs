using System.Collections.Immutable;
using Walkdown.Core.Measures;

namespace Walkdown.Devices.Field;

/// <summary>Why a device gave no answer that can be used, in a technician's words.</summary>
public sealed class FieldTrouble(string code, params ImmutableArray<string> args) : Exception(code)
{
    /// <summary>The words.</summary>
    public Message Why { get; } = new(code, args);

    /// <summary>It wants a login that it was not given, or another one.</summary>
    public bool WantsLogin => Why.Code is "asked.login-wanted" or "asked.login-refused";
}
